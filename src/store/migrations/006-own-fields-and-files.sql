-- Fields of the firm's own. One that is taken away stays, so that its key is given to no other and papers of then keep their meaning.
CREATE TABLE own_field (
	id INTEGER PRIMARY KEY,
	of TEXT NOT NULL CHECK (of IN ('customer', 'item', 'order', 'line')),
	key TEXT NOT NULL,
	name TEXT NOT NULL,
	type TEXT NOT NULL CHECK (type IN ('text', 'number', 'day', 'picture')),
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT,
	UNIQUE (of, key)
) STRICT;
CREATE UNIQUE INDEX own_field_name ON own_field (of, name COLLATE NOCASE) WHERE away_at IS NULL;
CREATE TRIGGER own_field_stays BEFORE DELETE ON own_field BEGIN SELECT RAISE(ABORT, 'a field is never removed'); END;
INSERT INTO own_field (of, key, name, type, made_at, made_by) VALUES
	('customer', 'mark', 'Mark', 'picture', '', ''),
	('item', 'photograph', 'Photograph', 'picture', '', ''),
	('item', 'group', 'Group', 'text', '', '');

-- Their values, JSON by key.
ALTER TABLE customer ADD COLUMN own TEXT NOT NULL DEFAULT '{}';
ALTER TABLE item ADD COLUMN own TEXT NOT NULL DEFAULT '{}';
ALTER TABLE sales_order ADD COLUMN own TEXT NOT NULL DEFAULT '{}';
ALTER TABLE order_line ADD COLUMN own TEXT NOT NULL DEFAULT '{}';

-- Where goods go: an order's own address, else its customer's; a line each, empty for where the invoice goes.
ALTER TABLE customer ADD COLUMN delivery TEXT NOT NULL DEFAULT '';
ALTER TABLE sales_order ADD COLUMN delivery TEXT NOT NULL DEFAULT '';

-- The language of papers whose customer's has no words.
ALTER TABLE company ADD COLUMN language TEXT NOT NULL DEFAULT 'en';

-- What goes to a customer beside the PDF: empty as the firm has it, else names with commas between, or none.
ALTER TABLE customer ADD COLUMN beside TEXT NOT NULL DEFAULT '';
-- What opens the PDF that is sent to them: empty for nothing, the key of a field, or "own" for a password that is kept sealed.
ALTER TABLE customer ADD COLUMN lock TEXT NOT NULL DEFAULT '';
CREATE TABLE customer_lock (
	customer_id INTEGER PRIMARY KEY REFERENCES customer (id),
	sealed BLOB NOT NULL,
	set_at TEXT NOT NULL,
	set_by TEXT NOT NULL
) STRICT;

-- Files beside a document's PDF: in other formats, and locked copies that were sent. Each is what was made, by its hash.
CREATE TABLE document_file (
	document_id INTEGER NOT NULL REFERENCES document (id),
	format TEXT NOT NULL CHECK (format IN ('docx', 'html', 'json', 'locked')),
	file_name TEXT NOT NULL,
	file_sha256 TEXT NOT NULL,
	file_size INTEGER NOT NULL,
	made_at TEXT NOT NULL,
	PRIMARY KEY (document_id, format, file_sha256)
) STRICT, WITHOUT ROWID;
-- The locked files that a message goes out with, JSON by document: the hash of each once it is made; empty where none is locked.
ALTER TABLE message ADD COLUMN locked TEXT NOT NULL DEFAULT '';
ALTER TABLE attempt ADD COLUMN locked TEXT NOT NULL DEFAULT '';
-- Formats that go with a message beside the PDF, with commas between.
ALTER TABLE message ADD COLUMN beside TEXT NOT NULL DEFAULT '';

-- The name of the file that a numbered document will have, so that two never have the same, made or not.
ALTER TABLE document ADD COLUMN filed_as TEXT;
CREATE INDEX document_filed_as ON document (filed_as COLLATE NOCASE) WHERE filed_as IS NOT NULL;
CREATE INDEX document_file_name ON document (file_name COLLATE NOCASE) WHERE file_name IS NOT NULL;
