-- Who had a hand in an order while it was a draft: after how many rounds of signatures they last did.
CREATE TABLE order_hand (
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id) ON DELETE CASCADE,
  person INTEGER NOT NULL REFERENCES person (id),
  round INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (purchase_order, person)
) STRICT, WITHOUT ROWID;

INSERT INTO order_hand (purchase_order, person, round)
SELECT o.id, a.person, max((SELECT count(*) FROM signing g WHERE g.purchase_order = o.id AND g.started < a.at))
FROM purchase_order o JOIN audit a ON a.subject = 'order ' || o.id
WHERE a.person IS NOT NULL AND o.state IN ('Draft', 'In sign-off', 'Cleared')
  AND a.act NOT IN ('order.signed', 'order.sent-back', 'order.handed-over', 'order.asked-about', 'order.mailed', 'order.placed', 'order.link-made', 'order.link-ended', 'order.answered', 'order.taken-back', 'order.revised', 'order.held', 'order.let-go')
GROUP BY o.id, a.person;

-- Whose own paper it was when it was handed in, as a list of people.
ALTER TABLE signing ADD COLUMN hands TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(hands));
UPDATE signing SET hands = json_array(writer);
UPDATE signing SET hands = (
  SELECT json_group_array(person) FROM (
    SELECT signing.writer AS person
    UNION SELECT o.helper FROM purchase_order o WHERE o.id = signing.purchase_order AND o.helper IS NOT NULL
    UNION SELECT h.person FROM order_hand h WHERE h.purchase_order = signing.purchase_order
    UNION SELECT r.asker FROM order_line l JOIN need_tie t ON t.order_line = l.id JOIN requisition_line q ON q.id = t.requisition_line
      JOIN requisition r ON r.id = q.requisition WHERE l.purchase_order = signing.purchase_order
  )) WHERE state = 'In sign-off';

-- What brings nothing by itself is carried by nobody.
UPDATE purchase_order SET freight = 0, home_freight = 0 WHERE kind IN ('blanket', 'standing');
