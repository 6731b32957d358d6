CREATE TABLE day_weather (
    site_id INTEGER NOT NULL REFERENCES site (id),
    day TEXT NOT NULL,
    doc TEXT NOT NULL,
    PRIMARY KEY (site_id, day)
) WITHOUT ROWID;
ALTER TABLE build ADD COLUMN deleted_at TEXT;
