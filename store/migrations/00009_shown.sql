-- +goose Up
-- The document that is shown stands beside the history, in a place of its own that each
-- edit writes over: in the history a row of ten thousand bytes that shrinks to a splice
-- leaves most of its page empty behind it.
CREATE TABLE shown (
    thing    INTEGER PRIMARY KEY REFERENCES things (id),
    revision INTEGER NOT NULL REFERENCES revisions (id), -- whose document it is
    doc      TEXT NOT NULL
);
INSERT INTO shown (thing, revision, doc)
    SELECT t.id, v.id, v.doc FROM things t JOIN revisions v ON v.id = t.head WHERE v.splice IS NOT NULL AND v.doc <> '';
UPDATE revisions SET doc = '' WHERE id IN (SELECT revision FROM shown);

-- +goose Down
UPDATE revisions SET doc = (SELECT s.doc FROM shown s WHERE s.revision = revisions.id) WHERE id IN (SELECT revision FROM shown);
DROP TABLE shown;
