-- An answer may be met with what we propose in its place.
CREATE TABLE answer_line_anew (
  id INTEGER PRIMARY KEY,
  answer INTEGER NOT NULL REFERENCES answer (id),
  order_line INTEGER NOT NULL REFERENCES order_line (id),
  open INTEGER NOT NULL CHECK (open > 0), -- of which it speaks: what was still to come then, in purchase units
  said TEXT NOT NULL, -- JSON of core/suppliers/answer.ts
  state TEXT NOT NULL DEFAULT 'waits' CHECK (state IN ('waits', 'taken', 'refused', 'countered', 'replaced')),
  decided TEXT, -- when
  decided_by INTEGER REFERENCES person (id), -- null for what was as ordered, and for what a later answer replaced
  why TEXT NOT NULL DEFAULT '', -- what we told them
  counter TEXT, -- JSON as in `said`: what we propose in its place, or took of it
  UNIQUE (answer, order_line),
  CHECK ((state = 'waits') = (decided IS NULL)),
  CHECK (state <> 'countered' OR counter IS NOT NULL)
) STRICT;
INSERT INTO answer_line_anew (id, answer, order_line, open, said, state, decided, decided_by, why)
  SELECT id, answer, order_line, open, said, state, decided, decided_by, why FROM answer_line;
DROP TABLE answer_line;
ALTER TABLE answer_line_anew RENAME TO answer_line;
CREATE INDEX answer_line_waits ON answer_line (order_line) WHERE state = 'waits';
CREATE INDEX answer_line_of ON answer_line (order_line, id);
CREATE TRIGGER answer_line_kept BEFORE DELETE ON answer_line BEGIN SELECT raise(ABORT, 'answers are never deleted'); END;
CREATE TRIGGER answer_line_stays BEFORE UPDATE OF answer, order_line, open, said ON answer_line BEGIN SELECT raise(ABORT, 'answers are never changed'); END;
CREATE TRIGGER answer_line_decided BEFORE UPDATE ON answer_line WHEN old.state <> 'waits' BEGIN SELECT raise(ABORT, 'an answer is decided once'); END;

-- The number that a supplier gave their answer, where it came as a file or from a program: it is kept once.
ALTER TABLE answer ADD COLUMN document TEXT;
CREATE UNIQUE INDEX answer_document ON answer (purchase_order, document) WHERE document IS NOT NULL;
