-- A trial over many boxes: each channel is somebody's box, like the trial's own build or like another one's revision.
CREATE TABLE class_box (
    trial_id INTEGER NOT NULL REFERENCES trial (id),
    channel TEXT NOT NULL,
    build_id INTEGER REFERENCES build (id),
    build_revision INTEGER,
    PRIMARY KEY (trial_id, channel)
) STRICT;
