-- +goose Up
-- Rigs and parts of the bins are things alike: kept whole, revision by revision,
-- with undo, redo and the same check against a stale page.
ALTER TABLE rigs RENAME TO things;
ALTER TABLE things ADD COLUMN kind TEXT NOT NULL DEFAULT 'rig'; -- rig, or the kind of part

ALTER TABLE revisions RENAME COLUMN rig_id TO thing;
ALTER TABLE revisions ADD COLUMN name TEXT NOT NULL DEFAULT '';
ALTER TABLE revisions ADD COLUMN sum TEXT NOT NULL DEFAULT ''; -- SHA-256 of label and document
UPDATE revisions SET name = COALESCE((SELECT name FROM things WHERE things.id = revisions.thing), '');
UPDATE revisions SET name = COALESCE(json_extract(doc, '$.name'), name) WHERE json_valid(doc);
CREATE INDEX things_by_kind ON things (kind, deleted_at);

CREATE TEMP TABLE moved AS SELECT id, row_number() OVER (ORDER BY id) AS n, kind, name, doc, deleted_at FROM bins;
INSERT INTO things (id, name, head, deleted_at, kind)
    SELECT COALESCE((SELECT MAX(id) FROM things), 0) + n, name, 0, deleted_at, kind FROM moved;
INSERT INTO revisions (thing, number, label, doc, name)
    SELECT t.id, 1, 'put into the bins', m.doc, m.name FROM moved m
    JOIN things t ON t.id = (SELECT COALESCE(MAX(id), 0) FROM things WHERE kind = 'rig') + m.n;
UPDATE things SET head = (SELECT id FROM revisions WHERE thing = things.id) WHERE head = 0;
DROP TABLE moved;
DROP TABLE bins;

-- +goose Down
CREATE TABLE bins (
    id         INTEGER PRIMARY KEY,
    kind       TEXT NOT NULL,
    name       TEXT NOT NULL,
    doc        TEXT NOT NULL,
    deleted_at TEXT
);
INSERT INTO bins (kind, name, doc, deleted_at)
    SELECT t.kind, t.name, v.doc, t.deleted_at FROM things t JOIN revisions v ON v.id = t.head WHERE t.kind <> 'rig';
DELETE FROM revisions WHERE thing IN (SELECT id FROM things WHERE kind <> 'rig');
DELETE FROM things WHERE kind <> 'rig';
DROP INDEX things_by_kind;
ALTER TABLE revisions DROP COLUMN sum;
ALTER TABLE revisions DROP COLUMN name;
ALTER TABLE revisions RENAME COLUMN thing TO rig_id;
ALTER TABLE things DROP COLUMN kind;
ALTER TABLE things RENAME TO rigs;
