-- A variant is a build that branched off another one's revision, and may be taken over into it.
ALTER TABLE build ADD COLUMN variant_of INTEGER REFERENCES build (id);
ALTER TABLE build ADD COLUMN variant_from INTEGER;
