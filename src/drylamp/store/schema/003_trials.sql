ALTER TABLE channel RENAME COLUMN doubt_k TO doubt;
ALTER TABLE channel ADD COLUMN quantity TEXT NOT NULL DEFAULT 'temperature';
ALTER TABLE channel ADD COLUMN device TEXT NOT NULL DEFAULT '';
ALTER TABLE channel ADD COLUMN calibration TEXT;
ALTER TABLE channel ADD COLUMN set_to REAL;

ALTER TABLE trial ADD COLUMN token TEXT NOT NULL DEFAULT '';
ALTER TABLE trial ADD COLUMN goal TEXT;
UPDATE trial SET token = lower(hex(randomblob(12)));

CREATE TABLE reading_new (
    trial_id INTEGER NOT NULL,
    channel TEXT NOT NULL,
    time_ms INTEGER NOT NULL,
    value REAL,
    doubt REAL,
    typed TEXT NOT NULL,
    unit TEXT NOT NULL,
    source TEXT NOT NULL,
    flag_code TEXT NOT NULL DEFAULT '',
    flag_text TEXT NOT NULL DEFAULT '',
    withdrawn_at TEXT,
    PRIMARY KEY (trial_id, channel, time_ms),
    FOREIGN KEY (trial_id, channel) REFERENCES channel (trial_id, name)
) WITHOUT ROWID;
INSERT INTO reading_new
    SELECT trial_id, channel, time_ms, value_c, NULL, typed, unit, source, flag_code, flag_text, withdrawn_at FROM reading;
DROP TABLE reading;
ALTER TABLE reading_new RENAME TO reading;
CREATE INDEX reading_flagged ON reading (trial_id, flag_code) WHERE flag_code <> '';

ALTER TABLE event ADD COLUMN channel TEXT NOT NULL DEFAULT '';
ALTER TABLE event ADD COLUMN uid TEXT;
CREATE UNIQUE INDEX event_by_uid ON event (trial_id, uid) WHERE uid IS NOT NULL;

CREATE TABLE photo (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id),
    time_ms INTEGER NOT NULL,
    note TEXT NOT NULL DEFAULT '',
    channel TEXT NOT NULL DEFAULT '',
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    content BLOB NOT NULL,
    uid TEXT,
    withdrawn_at TEXT
);
CREATE UNIQUE INDEX photo_by_uid ON photo (trial_id, uid) WHERE uid IS NOT NULL;

CREATE TABLE calibration (
    id INTEGER PRIMARY KEY,
    build_id INTEGER NOT NULL,
    build_revision INTEGER NOT NULL,
    trial_id INTEGER NOT NULL REFERENCES trial (id),
    adjustments TEXT NOT NULL,
    words TEXT NOT NULL,
    accepted_at TEXT NOT NULL,
    withdrawn_at TEXT,
    FOREIGN KEY (build_id, build_revision) REFERENCES build_revision (build_id, number)
);

CREATE TABLE import_mapping (
    build_id INTEGER NOT NULL REFERENCES build (id),
    header TEXT NOT NULL,
    mapping TEXT NOT NULL,
    PRIMARY KEY (build_id, header)
);
