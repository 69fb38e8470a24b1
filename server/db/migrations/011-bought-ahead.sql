-- So many days of use a plan may buy beyond what is needed, to reach a break, an order minimum or free freight.
ALTER TABLE bench ADD COLUMN ahead_days INTEGER NOT NULL DEFAULT 30 CHECK (ahead_days BETWEEN 0 AND 366);
