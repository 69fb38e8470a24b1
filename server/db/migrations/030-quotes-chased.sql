-- More links to one request for prices: one for each letter that asked for the answer again.
CREATE TABLE quote_link (
  link TEXT PRIMARY KEY, -- SHA-256 of what the private link holds
  asked INTEGER NOT NULL REFERENCES quote_asked (id),
  at TEXT NOT NULL
) STRICT;

-- Who was asked for the prices again, and when.
CREATE TABLE quote_chase (
  id INTEGER PRIMARY KEY,
  asked INTEGER NOT NULL REFERENCES quote_asked (id),
  day TEXT NOT NULL,
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  mail INTEGER NOT NULL REFERENCES mail (id)
) STRICT;
CREATE INDEX quote_chase_of ON quote_chase (asked, id);
CREATE TRIGGER quote_chase_kept BEFORE DELETE ON quote_chase BEGIN SELECT raise(ABORT, 'what was asked is never forgotten'); END;
CREATE TRIGGER quote_chase_stays BEFORE UPDATE ON quote_chase BEGIN SELECT raise(ABORT, 'what was asked is never changed'); END;
