-- When a line is due next: the earliest day of what has not come, by its last promise, else as asked for; kept by the file
-- itself, so that everybody reads the same. Of a line that is all in, the day of its last load.
ALTER TABLE order_line ADD COLUMN due TEXT NOT NULL DEFAULT '';
UPDATE order_line SET due = coalesce(
    (SELECT min(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id AND n.upto > order_line.received),
    (SELECT max(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id), promised, required);

CREATE TRIGGER order_line_due_new AFTER INSERT ON order_line BEGIN
  UPDATE order_line SET due = coalesce(new.promised, new.required) WHERE id = new.id;
END;
CREATE TRIGGER order_line_due_changed AFTER UPDATE OF promised, required, received ON order_line BEGIN
  UPDATE order_line SET due = coalesce(
    (SELECT min(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = new.id AND n.upto > new.received),
    (SELECT max(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = new.id), new.promised, new.required) WHERE id = new.id;
END;
CREATE TRIGGER instalment_due_new AFTER INSERT ON instalment BEGIN
  UPDATE order_line SET due = coalesce(
    (SELECT min(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id AND n.upto > order_line.received),
    (SELECT max(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id), promised, required) WHERE id = new.order_line;
END;
CREATE TRIGGER instalment_due_changed AFTER UPDATE ON instalment BEGIN
  UPDATE order_line SET due = coalesce(
    (SELECT min(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id AND n.upto > order_line.received),
    (SELECT max(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id), promised, required) WHERE id = new.order_line;
END;
CREATE TRIGGER instalment_due_gone AFTER DELETE ON instalment BEGIN
  UPDATE order_line SET due = coalesce(
    (SELECT min(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id AND n.upto > order_line.received),
    (SELECT max(coalesce(n.promised, n.required)) FROM instalment n WHERE n.order_line = order_line.id), promised, required) WHERE id = old.order_line;
END;

DROP INDEX order_line_due;
CREATE INDEX order_line_due ON order_line (purchase_order, due) WHERE open = 1;
