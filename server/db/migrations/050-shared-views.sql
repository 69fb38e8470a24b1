-- Ways to look at a sheet are shared, and those of figures go out by e-mail.
ALTER TABLE sheet_view ADD COLUMN shared INTEGER NOT NULL DEFAULT 0 CHECK (shared IN (0, 1)); -- everybody who sees the sheet may use it
ALTER TABLE sheet_view ADD COLUMN mails TEXT CHECK (mails IN ('week', 'month')); -- how often it goes to its owner
ALTER TABLE sheet_view ADD COLUMN mailed TEXT; -- the day on which it went last, or on which that was asked for
-- What was asked for is added up by the day on which it was handed in.
CREATE INDEX requisition_by_submitted ON requisition (submitted) WHERE submitted IS NOT NULL;
