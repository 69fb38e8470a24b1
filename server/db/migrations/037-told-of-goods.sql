-- Who is told when goods for a job come in.
ALTER TABLE job ADD COLUMN told INTEGER REFERENCES person (id);
