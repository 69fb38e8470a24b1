-- Pictures of goods that were counted and not taken in.
CREATE TABLE set_aside_picture (
  id INTEGER PRIMARY KEY,
  set_aside INTEGER NOT NULL REFERENCES set_aside (id),
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes BLOB NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE INDEX set_aside_picture_of ON set_aside_picture (set_aside);
