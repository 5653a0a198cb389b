-- +goose Up
-- A revision keeps what it changed of the one before, and the whole document now and then;
-- what is shown has its document whole, too. Searches look through columns, not documents.
ALTER TABLE revisions ADD COLUMN splice BLOB;                     -- what was changed of the parent; NULL where doc is all there is
ALTER TABLE revisions ADD COLUMN depth INTEGER NOT NULL DEFAULT 0; -- splices to the next whole document

ALTER TABLE things ADD COLUMN tags TEXT NOT NULL DEFAULT ''; -- of the document that is shown, a line each
UPDATE things SET tags = COALESCE((
    SELECT group_concat(tag.value, char(10))
    FROM revisions v, json_each(CASE WHEN json_valid(v.doc) THEN v.doc ELSE '{}' END, '$.tags') tag
    WHERE v.id = things.head), '');

-- +goose Down
ALTER TABLE things DROP COLUMN tags;
ALTER TABLE revisions DROP COLUMN depth;
ALTER TABLE revisions DROP COLUMN splice;
