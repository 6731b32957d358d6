-- Phones and tablets that were let in from the house's network. What opens the door is kept as a digest only.
CREATE TABLE device (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL,
    guest INTEGER NOT NULL CHECK (guest IN (0, 1)),
    mark_digest TEXT NOT NULL UNIQUE,
    paired_at TEXT NOT NULL,
    seen_at TEXT NOT NULL,
    revoked_at TEXT
) STRICT;
