-- When suppliers are asked for a word: the house's own rule, or one of a supplier.
CREATE TABLE chase_rule (
  supplier INTEGER UNIQUE REFERENCES supplier (id), -- null for the house
  confirm_hours INTEGER NOT NULL CHECK (confirm_hours BETWEEN 1 AND 400), -- working hours after it was sent
  announce_days INTEGER NOT NULL CHECK (announce_days BETWEEN 0 AND 60), -- before goods are due
  again_days INTEGER NOT NULL CHECK (again_days BETWEEN 1 AND 60), -- nobody is asked twice within so many days
  by_clock INTEGER NOT NULL DEFAULT 0 CHECK (by_clock IN (0, 1))
) STRICT;
CREATE UNIQUE INDEX chase_rule_of_house ON chase_rule (1) WHERE supplier IS NULL;
INSERT INTO chase_rule (supplier, confirm_hours, announce_days, again_days) VALUES (NULL, 16, 3, 5);

-- Who was asked for a word, about what, and when.
CREATE TABLE chase (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  about TEXT NOT NULL CHECK (about IN ('confirm', 'announce', 'overdue')),
  day TEXT NOT NULL,
  at TEXT NOT NULL,
  person INTEGER REFERENCES person (id), -- null: the clock
  mail INTEGER NOT NULL REFERENCES mail (id)
) STRICT;
CREATE INDEX chase_of ON chase (purchase_order, about, id);
CREATE TRIGGER chase_kept BEFORE DELETE ON chase BEGIN SELECT raise(ABORT, 'what was asked is never forgotten'); END;
CREATE TRIGGER chase_stays BEFORE UPDATE ON chase BEGIN SELECT raise(ABORT, 'what was asked is never changed'); END;
