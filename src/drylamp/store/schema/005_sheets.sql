CREATE TABLE sheet_row (
    id INTEGER PRIMARY KEY,
    sheet TEXT NOT NULL,
    trial_id INTEGER REFERENCES trial (id),
    build_id INTEGER REFERENCES build (id),
    site_id INTEGER REFERENCES site (id),
    revision INTEGER NOT NULL DEFAULT 1,
    content TEXT NOT NULL,
    written_at TEXT NOT NULL,
    withdrawn_at TEXT,
    CHECK ((trial_id IS NOT NULL) + (build_id IS NOT NULL) + (site_id IS NOT NULL) = 1)
);
CREATE INDEX sheet_row_of_trial ON sheet_row (trial_id) WHERE trial_id IS NOT NULL;
CREATE INDEX sheet_row_of_build ON sheet_row (build_id) WHERE build_id IS NOT NULL;
CREATE INDEX sheet_row_of_site ON sheet_row (site_id) WHERE site_id IS NOT NULL;
