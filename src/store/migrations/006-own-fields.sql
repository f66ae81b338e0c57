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
