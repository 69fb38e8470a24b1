-- Private links to what is expected at a store, for somebody's calendar.
CREATE TABLE arrival_link (
  id INTEGER PRIMARY KEY,
  link TEXT NOT NULL UNIQUE, -- its hash alone
  person INTEGER NOT NULL REFERENCES person (id),
  store INTEGER REFERENCES store (id), -- null for all
  made TEXT NOT NULL,
  ended TEXT
) STRICT;
CREATE INDEX arrival_link_of ON arrival_link (person, id);
