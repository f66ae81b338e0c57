-- Kinds of paper that the firm made: quotes, delivery notes, purchase orders. `base` is what their papers say, and `records` what they are
-- made from; neither changes. `body` (JSON) is what may: names, the last day, years kept. One that is taken away stays, since papers name it.
CREATE TABLE paper_kind (
	id INTEGER PRIMARY KEY,
	base TEXT NOT NULL CHECK (base IN ('priced', 'unpriced')),
	records TEXT NOT NULL CHECK (records IN ('orders', 'form', 'sheet')),
	body TEXT NOT NULL,
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT,
	away_reason TEXT
) STRICT;
CREATE TRIGGER paper_kind_stays BEFORE DELETE ON paper_kind BEGIN SELECT RAISE(ABORT, 'a kind of paper is never removed'); END;
CREATE TRIGGER paper_kind_keeps BEFORE UPDATE OF base, records ON paper_kind
BEGIN SELECT RAISE(ABORT, 'what a kind of paper is made from never changes'); END;

-- What papers of such a kind are made from: an order of the books, or (`body`, JSON) what was typed for the kind in the order form, or rows
-- of a sheet that belong together, named by the first of them.
CREATE TABLE paper_record (
	id INTEGER PRIMARY KEY,
	kind_id INTEGER NOT NULL REFERENCES paper_kind (id),
	order_id INTEGER REFERENCES sales_order (id),
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	-- The file that what was typed is kept in, or the sheet; and the first of its rows.
	file_id INTEGER REFERENCES source_file (id),
	first_row INTEGER,
	number TEXT NOT NULL,
	day TEXT NOT NULL,
	body TEXT,
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT,
	away_reason TEXT,
	CHECK ((order_id IS NULL) <> (body IS NULL))
) STRICT;
CREATE UNIQUE INDEX paper_record_order ON paper_record (kind_id, order_id) WHERE order_id IS NOT NULL;
CREATE UNIQUE INDEX paper_record_number ON paper_record (kind_id, number COLLATE NOCASE) WHERE order_id IS NULL AND first_row IS NULL AND away_at IS NULL;
CREATE UNIQUE INDEX paper_record_rows ON paper_record (kind_id, file_id, number COLLATE NOCASE) WHERE first_row IS NOT NULL AND away_at IS NULL;
CREATE INDEX paper_record_file ON paper_record (file_id, first_row) WHERE file_id IS NOT NULL;
CREATE INDEX paper_record_of_order ON paper_record (order_id) WHERE order_id IS NOT NULL;
CREATE INDEX paper_record_customer ON paper_record (customer_id);
CREATE TRIGGER paper_record_stays BEFORE DELETE ON paper_record BEGIN SELECT RAISE(ABORT, 'what a paper was made from is never removed'); END;
CREATE TRIGGER paper_record_keeps BEFORE UPDATE OF kind_id, order_id, customer_id, number, day, body ON paper_record
BEGIN SELECT RAISE(ABORT, 'what a paper was made from stays as it was'); END;

-- Which papers were made from it, the first version first.
CREATE TABLE paper (
	document_id INTEGER PRIMARY KEY REFERENCES document (id),
	record_id INTEGER NOT NULL REFERENCES paper_record (id),
	version INTEGER NOT NULL,
	UNIQUE (record_id, version)
) STRICT;

-- What a run of papers is to make, noted when it is started, so that nothing else comes in: each record, and with what net it was drafted,
-- for the tally. One whose draft was put away counts no longer.
CREATE TABLE run_paper (
	run_id INTEGER NOT NULL REFERENCES run (id),
	record_id INTEGER NOT NULL REFERENCES paper_record (id),
	currency TEXT,
	net INTEGER,
	away_at TEXT,
	PRIMARY KEY (run_id, record_id)
) STRICT, WITHOUT ROWID;

-- What of a paper its customer accepted: each line of its record once, and the order that it became.
CREATE TABLE accepted_line (
	record_id INTEGER NOT NULL REFERENCES paper_record (id),
	-- Its place among the record's lines, from 0.
	line INTEGER NOT NULL,
	document_id INTEGER NOT NULL REFERENCES document (id),
	order_id INTEGER NOT NULL REFERENCES sales_order (id),
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	-- Why it was accepted after its last day; empty where it was not.
	reason TEXT NOT NULL,
	PRIMARY KEY (order_id, line)
) STRICT, WITHOUT ROWID;
CREATE INDEX accepted_line_record ON accepted_line (record_id);
CREATE INDEX accepted_line_document ON accepted_line (document_id);

-- A paper that is kept and not sent, since when and by whom it was said so.
ALTER TABLE document ADD COLUMN only_filed_at TEXT;
ALTER TABLE document ADD COLUMN only_filed_by TEXT;
-- When, by whom and why its files were taken away, once the years that the firm keeps them were over. What it said stays.
ALTER TABLE document ADD COLUMN files_away_at TEXT;
ALTER TABLE document ADD COLUMN files_away_by TEXT;
ALTER TABLE document ADD COLUMN files_away_reason TEXT;

-- Fields of the firm's own for papers that are made from sheets: once for a paper, or for each of its rows.
CREATE TABLE own_field_of_more (
	id INTEGER PRIMARY KEY,
	of TEXT NOT NULL CHECK (of IN ('customer', 'item', 'order', 'line', 'sheet', 'row')),
	key TEXT NOT NULL,
	name TEXT NOT NULL,
	type TEXT NOT NULL CHECK (type IN ('text', 'number', 'day', 'picture')),
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT,
	UNIQUE (of, key)
) STRICT;
INSERT INTO own_field_of_more (id, of, key, name, type, made_at, made_by, away_at, away_by)
SELECT id, of, key, name, type, made_at, made_by, away_at, away_by FROM own_field;
DROP TABLE own_field;
ALTER TABLE own_field_of_more RENAME TO own_field;
CREATE UNIQUE INDEX own_field_name ON own_field (of, name COLLATE NOCASE) WHERE away_at IS NULL;
CREATE TRIGGER own_field_stays BEFORE DELETE ON own_field BEGIN SELECT RAISE(ABORT, 'a field is never removed'); END;

-- Papers from sheets go to people who are no customers: customer 0 stands for all of them, and is in no list. Name and address are the
-- paper's own.
INSERT INTO customer (id, number, name, address, country, email, contact, currency, locale, terms, tax, tax_number, grouping, statements)
VALUES (0, '', 'No customer of the books', '', '', '', '', '', 'en-GB', '30 days', 'standard', '', 'order', 0);

-- Prints of drafts, to look at on paper: thrown away after a time that is set, and when that was.
CREATE TABLE trial_print (
	id INTEGER PRIMARY KEY,
	run_id INTEGER NOT NULL REFERENCES run (id),
	papers INTEGER NOT NULL,
	-- Below the folder of files.
	file_name TEXT NOT NULL,
	file_sha256 TEXT NOT NULL,
	file_size INTEGER NOT NULL,
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	gone_at TEXT
) STRICT;
CREATE INDEX trial_print_here ON trial_print (made_at) WHERE gone_at IS NULL;

DROP VIEW placed;
CREATE VIEW placed AS
SELECT d.*, m.state AS message_state, m.last_answer AS message_answer,
	CASE
		WHEN d.dropped_at IS NOT NULL THEN 'dropped'
		WHEN d.void_at IS NOT NULL THEN 'void'
		WHEN d.replaced_at IS NOT NULL THEN 'replaced'
		WHEN d.number IS NULL AND d.held_reason IS NOT NULL THEN 'held'
		WHEN d.number IS NULL AND d.level = 'stop' THEN 'stopped'
		WHEN d.number IS NULL THEN 'to number'
		WHEN d.made_at IS NULL THEN 'to make'
		WHEN m.state = 'sent' THEN 'sent'
		WHEN d.printed_at IS NOT NULL THEN 'printed'
		WHEN d.only_filed_at IS NOT NULL AND m.state IS NULL THEN 'filed'
		WHEN d.email = '' THEN 'to print'
		WHEN m.state IN ('refused', 'unsure') THEN m.state
		WHEN m.state IS NOT NULL THEN 'waiting'
		WHEN d.message_held = 1 THEN 'to read'
		ELSE 'made'
	END AS place
FROM document d LEFT JOIN message m ON m.document_id = d.id;
