-- Photos of what a sheet's row tells of: a finding, a piece of the pile.
CREATE TABLE row_photo (
    id INTEGER PRIMARY KEY,
    row_id INTEGER NOT NULL REFERENCES sheet_row (id),
    time_ms INTEGER NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    content BLOB NOT NULL,
    uid TEXT,
    withdrawn_at TEXT
) STRICT;
CREATE UNIQUE INDEX row_photo_by_uid ON row_photo (row_id, uid) WHERE uid IS NOT NULL;
CREATE INDEX row_photo_of_row ON row_photo (row_id);
