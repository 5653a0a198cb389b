-- +goose Up
-- Which column of a table holds the frame times, by its head, as a person said.
CREATE TABLE columns (
    head TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    unit TEXT NOT NULL
);

-- +goose Down
DROP TABLE columns;
