-- Periods of the journal that are closed: numbered, handed over, and booked into no more.
CREATE TABLE book_close (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  starts TEXT NOT NULL, -- the first day of it
  until TEXT NOT NULL UNIQUE, -- the last day, the end of a month
  entries INTEGER NOT NULL,
  debit INTEGER NOT NULL, -- as much as is credited, home currency
  accrual INTEGER REFERENCES posting_entry (id), -- what was used and not billed by then
  person INTEGER NOT NULL REFERENCES person (id),
  at TEXT NOT NULL
) STRICT;
CREATE TRIGGER book_close_kept BEFORE DELETE ON book_close BEGIN SELECT raise(ABORT, 'a closed period is never opened'); END;
CREATE TRIGGER book_close_stays BEFORE UPDATE ON book_close BEGIN SELECT raise(ABORT, 'a closed period is never changed'); END;
CREATE TRIGGER entry_of_open_period BEFORE INSERT ON posting_entry WHEN new.day <= (SELECT max(until) FROM book_close)
BEGIN SELECT raise(ABORT, 'this period is closed'); END;
CREATE INDEX posting_entry_by_day ON posting_entry (day);

-- Claims are written about to their suppliers: which letter, and when the last one went.
ALTER TABLE claim ADD COLUMN written TEXT;
