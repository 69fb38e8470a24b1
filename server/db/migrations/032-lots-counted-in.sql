-- Serial numbers are lots of one. How long goods keep from the day they come, and what must be left of that on the dock.
ALTER TABLE item ADD COLUMN by_serial INTEGER NOT NULL DEFAULT 0 CHECK (by_serial IN (0, 1));
ALTER TABLE item ADD COLUMN shelf_days INTEGER CHECK (shelf_days BETWEEN 1 AND 7300);
ALTER TABLE item ADD COLUMN least_days INTEGER CHECK (least_days BETWEEN 1 AND 7300);

ALTER TABLE receipt_line ADD COLUMN lot INTEGER REFERENCES lot (id);
ALTER TABLE receipt_line ADD COLUMN bin TEXT NOT NULL DEFAULT ''; -- where it was put
ALTER TABLE set_aside ADD COLUMN lot TEXT NOT NULL DEFAULT ''; -- as it stands on the goods: it becomes a lot of ours once they are taken in
ALTER TABLE set_aside ADD COLUMN expires TEXT;
