-- +goose Up
CREATE TABLE rigs (
    id         INTEGER PRIMARY KEY,
    name       TEXT NOT NULL,              -- the name in the newest document, for lists
    head       INTEGER NOT NULL,           -- the revision that is shown
    deleted_at TEXT
);

CREATE TABLE revisions (
    id      INTEGER PRIMARY KEY,
    rig_id  INTEGER NOT NULL REFERENCES rigs (id) DEFERRABLE INITIALLY DEFERRED,
    parent  INTEGER REFERENCES revisions (id), -- what it was made from; NULL for the first
    number  INTEGER NOT NULL,                  -- counts the changes of one rig
    label   TEXT NOT NULL,                     -- what was changed, in words
    doc     TEXT NOT NULL,                     -- the whole rig file
    made_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
);
CREATE INDEX revisions_by_parent ON revisions (parent);
CREATE INDEX revisions_by_rig ON revisions (rig_id, number);

CREATE TABLE bins (
    id         INTEGER PRIMARY KEY,
    kind       TEXT NOT NULL,
    name       TEXT NOT NULL,
    doc        TEXT NOT NULL,
    deleted_at TEXT
);

-- +goose Down
DROP TABLE bins;
DROP TABLE revisions;
DROP TABLE rigs;
