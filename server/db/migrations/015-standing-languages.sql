-- A standing text may be for those alone who are written to in one language.
ALTER TABLE standing_text ADD COLUMN language TEXT CHECK (language IN ('en', 'de', 'fr', 'nl')); -- null: every language
