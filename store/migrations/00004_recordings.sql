-- +goose Up
-- What a meter at the wall showed for a rig: one table for each, packed.
CREATE TABLE recordings (
    thing   INTEGER PRIMARY KEY REFERENCES things (id),
    packed  BLOB NOT NULL, -- CSV, gzip
    sum     TEXT NOT NULL  -- over packed, as a revision has one
);

-- +goose Down
DROP TABLE recordings;
