-- How far the audit trail was followed, so that the next time only what came since is; `whole` is when all of it was.
CREATE TABLE trail_check (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  upto INTEGER NOT NULL,
  hash TEXT NOT NULL,
  at TEXT NOT NULL,
  whole TEXT NOT NULL,
  broken INTEGER -- the first row that does not follow from the one before
) STRICT;

-- What is swept by its age.
CREATE INDEX submission_by_age ON submission (at);
CREATE INDEX notice_read ON notice (read) WHERE read IS NOT NULL;
