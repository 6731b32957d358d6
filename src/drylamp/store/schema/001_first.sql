CREATE TABLE site (
    id INTEGER PRIMARY KEY,
    doc TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1
);

CREATE TABLE build (
    id INTEGER PRIMARY KEY,
    site_id INTEGER NOT NULL REFERENCES site (id),
    revision INTEGER NOT NULL,
    removed_at TEXT
);

CREATE TABLE build_revision (
    build_id INTEGER NOT NULL REFERENCES build (id),
    number INTEGER NOT NULL,
    name TEXT NOT NULL,
    spot TEXT,
    spec TEXT NOT NULL,
    load TEXT,
    note TEXT NOT NULL DEFAULT '',
    undo_to INTEGER,
    created_at TEXT NOT NULL,
    PRIMARY KEY (build_id, number)
);

CREATE TABLE trial (
    id INTEGER PRIMARY KEY,
    build_id INTEGER NOT NULL,
    build_revision INTEGER NOT NULL,
    name TEXT NOT NULL,
    protocol TEXT NOT NULL,
    spot TEXT,
    weather TEXT NOT NULL,
    load TEXT,
    preheated INTEGER NOT NULL DEFAULT 0,
    started_ms INTEGER NOT NULL,
    ended_ms INTEGER,
    remarks TEXT NOT NULL DEFAULT '',
    FOREIGN KEY (build_id, build_revision) REFERENCES build_revision (build_id, number)
);

CREATE TABLE channel (
    trial_id INTEGER NOT NULL REFERENCES trial (id),
    name TEXT NOT NULL,
    title TEXT NOT NULL,
    node TEXT NOT NULL,
    is_control INTEGER NOT NULL DEFAULT 0,
    instrument TEXT NOT NULL,
    doubt_k REAL NOT NULL,
    place INTEGER NOT NULL,
    PRIMARY KEY (trial_id, name)
);

CREATE TABLE reading (
    trial_id INTEGER NOT NULL,
    channel TEXT NOT NULL,
    time_ms INTEGER NOT NULL,
    value_c REAL NOT NULL,
    typed TEXT NOT NULL,
    unit TEXT NOT NULL,
    source TEXT NOT NULL,
    flag_code TEXT NOT NULL DEFAULT '',
    flag_text TEXT NOT NULL DEFAULT '',
    withdrawn_at TEXT,
    PRIMARY KEY (trial_id, channel, time_ms),
    FOREIGN KEY (trial_id, channel) REFERENCES channel (trial_id, name)
) WITHOUT ROWID;

CREATE TABLE event (
    id INTEGER PRIMARY KEY,
    trial_id INTEGER NOT NULL REFERENCES trial (id),
    kind TEXT NOT NULL,
    time_ms INTEGER NOT NULL,
    note TEXT NOT NULL DEFAULT '',
    withdrawn_at TEXT
);

CREATE TABLE weather_file (
    id INTEGER PRIMARY KEY,
    site_id INTEGER NOT NULL REFERENCES site (id),
    name TEXT NOT NULL,
    kind TEXT NOT NULL,
    content TEXT NOT NULL,
    added_at TEXT NOT NULL
);

CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
);
