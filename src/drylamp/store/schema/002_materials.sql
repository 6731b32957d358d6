CREATE TABLE material (
    id INTEGER PRIMARY KEY,
    family TEXT NOT NULL CHECK (family IN ('absorber', 'cover', 'mirror', 'layer')),
    name TEXT NOT NULL,
    doc TEXT NOT NULL,
    revision INTEGER NOT NULL DEFAULT 1,
    removed_at TEXT
);

CREATE UNIQUE INDEX material_by_name ON material (family, name) WHERE removed_at IS NULL;
