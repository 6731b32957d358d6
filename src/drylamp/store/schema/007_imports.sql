-- Which import a reading came with, so that a whole file may be taken back at once.
ALTER TABLE reading ADD COLUMN import_id INTEGER;
