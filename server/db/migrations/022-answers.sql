-- What suppliers answer to orders, line by line, and what became of each; and every day that was ever promised.
CREATE TABLE answer (
  id INTEGER PRIMARY KEY,
  purchase_order INTEGER NOT NULL REFERENCES purchase_order (id),
  revision INTEGER NOT NULL, -- the one that it speaks of
  way TEXT NOT NULL CHECK (way IN ('private link', 'file', 'phone', 'e-mail', 'in person')),
  said_by TEXT NOT NULL DEFAULT '', -- who of theirs
  said_on TEXT NOT NULL, -- the day on which they said it
  at TEXT NOT NULL, -- when it was kept
  person INTEGER REFERENCES person (id), -- who wrote it down; null where they did so themselves
  order_link INTEGER REFERENCES order_link (id), -- the private link that it came by
  remark TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX answer_of ON answer (purchase_order, id);
CREATE TRIGGER answer_kept BEFORE DELETE ON answer BEGIN SELECT raise(ABORT, 'answers are never deleted'); END;
CREATE TRIGGER answer_stays BEFORE UPDATE ON answer BEGIN SELECT raise(ABORT, 'answers are never changed'); END;

CREATE TABLE answer_line (
  id INTEGER PRIMARY KEY,
  answer INTEGER NOT NULL REFERENCES answer (id),
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  open INTEGER NOT NULL CHECK (open > 0), -- of which it speaks: what was still to come then, in purchase units
  said TEXT NOT NULL, -- JSON of core/suppliers/answer.ts
  state TEXT NOT NULL DEFAULT 'waits' CHECK (state IN ('waits', 'taken', 'refused', 'replaced')),
  decided TEXT, -- when
  decided_by INTEGER REFERENCES person (id), -- null for what was as ordered, and for what a later answer replaced
  why TEXT NOT NULL DEFAULT '', -- what we told them
  UNIQUE (answer, order_line),
  CHECK ((state = 'waits') = (decided IS NULL))
) STRICT;
CREATE INDEX answer_line_waits ON answer_line (order_line) WHERE state = 'waits';
CREATE INDEX answer_line_of ON answer_line (order_line, id);
CREATE TRIGGER answer_line_kept BEFORE DELETE ON answer_line BEGIN SELECT raise(ABORT, 'answers are never deleted'); END;
CREATE TRIGGER answer_line_stays BEFORE UPDATE OF answer, order_line, open, said ON answer_line BEGIN SELECT raise(ABORT, 'answers are never changed'); END;
CREATE TRIGGER answer_line_decided BEFORE UPDATE ON answer_line WHEN old.state <> 'waits' BEGIN SELECT raise(ABORT, 'an answer is decided once'); END;

-- The last one of a line’s part stands in its schedule; none is ever forgotten.
CREATE TABLE promise (
  id INTEGER PRIMARY KEY,
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- purchase units
  day TEXT NOT NULL,
  at TEXT, -- when it was taken; null for those of before this was kept
  answer INTEGER REFERENCES answer (id) -- null for those that came with a file
) STRICT;
CREATE INDEX promise_of ON promise (order_line, id);
CREATE TRIGGER promise_kept BEFORE DELETE ON promise BEGIN SELECT raise(ABORT, 'promises are never forgotten'); END;
CREATE TRIGGER promise_stays BEFORE UPDATE ON promise BEGIN SELECT raise(ABORT, 'promises are never changed'); END;
INSERT INTO promise (order_line, quantity, day) SELECT order_line, quantity, promised FROM order_schedule WHERE promised IS NOT NULL ORDER BY id;
