-- +goose Up
-- Captures that a person keeps with a rig, as they came; what is worked out of them is in the rig.
CREATE TABLE captures (
    thing INTEGER NOT NULL REFERENCES things (id),
    sum   TEXT NOT NULL, -- SHA-256 of the file, in hex
    name  TEXT NOT NULL,
    file  BLOB NOT NULL, -- gzip
    PRIMARY KEY (thing, sum)
);

-- +goose Down
DROP TABLE captures;
