-- +goose Up
-- Pictures that are attached to the steps of a build.
CREATE TABLE pictures (
    id    INTEGER PRIMARY KEY,
    thing INTEGER NOT NULL REFERENCES things (id),
    step  TEXT NOT NULL,
    image BLOB NOT NULL, -- JPEG, made anew without what a camera adds
    sum   TEXT NOT NULL  -- over image
);
CREATE INDEX pictures_of ON pictures (thing, step);

-- +goose Down
DROP TABLE pictures;
