-- Files come in parts, as the line brings them; what came stays as it came.
CREATE TABLE source_part (
	file_id INTEGER NOT NULL REFERENCES source_file (id),
	part INTEGER NOT NULL,
	bytes BLOB NOT NULL,
	PRIMARY KEY (file_id, part)
) STRICT;
CREATE TRIGGER source_part_keeps BEFORE UPDATE ON source_part BEGIN SELECT RAISE(ABORT, 'a file stays as it came'); END;

-- The saved ways to read a source. `body` is a reading; `shape` the names of its head, by which it is picked; each change is a version.
CREATE TABLE reader (
	id INTEGER PRIMARY KEY,
	name TEXT NOT NULL,
	kind TEXT NOT NULL,
	body TEXT NOT NULL,
	shape TEXT NOT NULL,
	version INTEGER NOT NULL DEFAULT 1,
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT
) STRICT;
CREATE UNIQUE INDEX reader_name ON reader (name COLLATE NOCASE) WHERE away_at IS NULL;
CREATE TRIGGER reader_stays BEFORE DELETE ON reader BEGIN SELECT RAISE(ABORT, 'a reader is never removed'); END;

CREATE TABLE source_file_in_parts (
	id INTEGER PRIMARY KEY,
	name TEXT NOT NULL,
	-- Empty until all of it is here.
	sha256 TEXT NOT NULL,
	size INTEGER NOT NULL,
	-- By what a file that breaks off is known when it goes on: its name, size and time of change.
	mark TEXT NOT NULL DEFAULT '',
	kind TEXT NOT NULL,
	reading TEXT NOT NULL,
	state TEXT NOT NULL CHECK (state IN ('arriving', 'read', 'accepted', 'taken back', 'dropped')),
	received_at TEXT NOT NULL,
	received_by TEXT NOT NULL,
	accepted_at TEXT,
	accepted_by TEXT,
	result TEXT,
	-- What its columns say (JSON), once it was read; why it cannot be read, where it cannot.
	look TEXT,
	trouble TEXT NOT NULL DEFAULT '',
	-- What it would bring (JSON), and by which state of the books and of its corrections that was worked out.
	review TEXT,
	-- What a person answered that is no part of how it is read.
	answers TEXT NOT NULL DEFAULT '{}',
	reader_id INTEGER REFERENCES reader (id),
	reader_version INTEGER
) STRICT;
INSERT INTO source_part (file_id, part, bytes) SELECT id, 0, content FROM source_file;
INSERT INTO source_file_in_parts (id, name, sha256, size, kind, reading, state, received_at, received_by, accepted_at, accepted_by, result)
SELECT id, name, sha256, size, kind, json_remove(json_set(reading,
		'$.days', json_extract(reading, '$.dayFormat'),
		'$.decimal', iif(json_extract(reading, '$.decimalMark') = ',', 'comma', 'point')), '$.dayFormat', '$.decimalMark'),
	state, received_at, received_by, accepted_at, accepted_by, result FROM source_file;
DROP TABLE source_file;
ALTER TABLE source_file_in_parts RENAME TO source_file;
CREATE UNIQUE INDEX source_file_accepted_once ON source_file (sha256) WHERE state = 'accepted';
CREATE INDEX source_file_sha256 ON source_file (sha256);

-- What a person corrected in a file, that stays as it came: in one row, or (row 0) wherever the value stands in the column.
CREATE TABLE correction (
	id INTEGER PRIMARY KEY,
	file_id INTEGER NOT NULL REFERENCES source_file (id),
	row INTEGER NOT NULL,
	place INTEGER NOT NULL,
	-- The field that is given where the file has no column for it; empty where `place` says which.
	field TEXT NOT NULL DEFAULT '',
	was TEXT NOT NULL,
	now TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	undone_at TEXT,
	undone_by TEXT
) STRICT;
CREATE INDEX correction_file ON correction (file_id);
-- Rows that a person left out, with why.
CREATE TABLE row_left_out (
	id INTEGER PRIMARY KEY,
	file_id INTEGER NOT NULL REFERENCES source_file (id),
	row INTEGER NOT NULL,
	reason TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	undone_at TEXT,
	undone_by TEXT
) STRICT;
CREATE INDEX row_left_out_file ON row_left_out (file_id);

-- One accepting of a file; what was refused may be mended and accepted later. Its orders count from the moment that it is done, all at once.
CREATE TABLE acceptance (
	id INTEGER PRIMARY KEY,
	file_id INTEGER NOT NULL REFERENCES source_file (id),
	state TEXT NOT NULL CHECK (state IN ('going', 'done', 'stopped', 'taken back')),
	-- How many of its records are in the books, so that one that was torn goes on there.
	reached INTEGER NOT NULL DEFAULT 0,
	words TEXT NOT NULL DEFAULT '',
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	back_at TEXT,
	back_by TEXT,
	back_reason TEXT
) STRICT;
CREATE INDEX acceptance_file ON acceptance (file_id);
INSERT INTO acceptance (file_id, state, words, at, clerk)
SELECT id, 'done', coalesce(result, ''), accepted_at, accepted_by FROM source_file WHERE state = 'accepted';

-- An order's number is its own among the orders that count; `apart` tells two of one number from another year or source.
CREATE TABLE sales_order_apart (
	id INTEGER PRIMARY KEY,
	number TEXT NOT NULL,
	apart TEXT NOT NULL DEFAULT '',
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	day TEXT NOT NULL,
	currency TEXT NOT NULL,
	purchase_order TEXT NOT NULL,
	note TEXT NOT NULL,
	discount_percent TEXT NOT NULL,
	freight TEXT NOT NULL,
	freight_tax_code TEXT NOT NULL,
	source_file_id INTEGER NOT NULL REFERENCES source_file (id),
	acceptance_id INTEGER NOT NULL REFERENCES acceptance (id),
	content_sha256 TEXT NOT NULL,
	net INTEGER NOT NULL,
	line_count INTEGER NOT NULL,
	run_id INTEGER REFERENCES run (id),
	document_id INTEGER REFERENCES document (id),
	billed INTEGER NOT NULL DEFAULT 0,
	discount_label TEXT NOT NULL DEFAULT '',
	freight_percent TEXT NOT NULL DEFAULT '',
	part_of INTEGER REFERENCES sales_order_apart (id),
	joined_to INTEGER REFERENCES sales_order_apart (id),
	shared TEXT,
	same_as TEXT NOT NULL DEFAULT '',
	own TEXT NOT NULL DEFAULT '{}',
	delivery TEXT NOT NULL DEFAULT '',
	-- What was looked up in the books when it came in, names of fields with commas between.
	looked_up TEXT NOT NULL DEFAULT '',
	-- Kept out of runs, with why.
	held_reason TEXT,
	held_by TEXT,
	held_at TEXT,
	-- No longer waiting, and why: withdrawn by a person, replaced by an amended one, taken back with its file.
	away_how TEXT CHECK (away_how IN ('withdrawn', 'replaced', 'taken back')),
	away_reason TEXT,
	away_by TEXT,
	away_at TEXT
) STRICT;
INSERT INTO sales_order_apart (id, number, customer_id, day, currency, purchase_order, note, discount_percent, freight, freight_tax_code, source_file_id,
	acceptance_id, content_sha256, net, line_count, run_id, document_id, billed, discount_label, freight_percent, part_of, joined_to, shared, same_as, own, delivery)
SELECT o.id, o.number, o.customer_id, o.day, o.currency, o.purchase_order, o.note, o.discount_percent, o.freight, o.freight_tax_code, o.source_file_id,
	(SELECT a.id FROM acceptance a WHERE a.file_id = o.source_file_id), o.content_sha256, o.net, o.line_count, o.run_id, o.document_id, o.billed,
	o.discount_label, o.freight_percent, o.part_of, o.joined_to, o.shared, o.same_as, o.own, o.delivery FROM sales_order o;
DROP TABLE sales_order;
ALTER TABLE sales_order_apart RENAME TO sales_order;
CREATE UNIQUE INDEX sales_order_number ON sales_order (number COLLATE NOCASE, apart) WHERE away_at IS NULL;
CREATE INDEX sales_order_customer ON sales_order (customer_id);
CREATE INDEX sales_order_waiting ON sales_order (day) WHERE run_id IS NULL AND joined_to IS NULL AND away_at IS NULL;
CREATE INDEX sales_order_run ON sales_order (run_id) WHERE run_id IS NOT NULL;
CREATE INDEX sales_order_document ON sales_order (document_id) WHERE document_id IS NOT NULL;
CREATE INDEX sales_order_part ON sales_order (part_of) WHERE part_of IS NOT NULL;
CREATE INDEX sales_order_same ON sales_order (same_as);
CREATE INDEX sales_order_acceptance ON sales_order (acceptance_id);
-- An order that never counted (its accepting was stopped) may go; one that did stays for good.
CREATE TRIGGER sales_order_stays BEFORE DELETE ON sales_order
WHEN (SELECT state FROM acceptance WHERE id = OLD.acceptance_id) NOT IN ('going', 'stopped')
BEGIN SELECT RAISE(ABORT, 'an order is never removed'); END;

ALTER TABLE order_line ADD COLUMN discount_amount TEXT NOT NULL DEFAULT '';
ALTER TABLE order_line ADD COLUMN looked_up TEXT NOT NULL DEFAULT '';
DROP TRIGGER order_line_keeps;
CREATE TRIGGER order_line_keeps BEFORE UPDATE OF source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, discount_amount, tax_code
ON order_line BEGIN SELECT RAISE(ABORT, 'a line stays as it was brought in'); END;
DROP TRIGGER order_line_stays;
CREATE TRIGGER order_line_stays BEFORE DELETE ON order_line
WHEN (SELECT a.state FROM acceptance a JOIN sales_order o ON o.acceptance_id = a.id WHERE o.id = OLD.order_id) NOT IN ('going', 'stopped')
BEGIN SELECT RAISE(ABORT, 'a line of an order is never removed'); END;

-- Orders that count: their accepting is done, and they are not away.
CREATE VIEW order_in AS
SELECT o.* FROM sales_order o JOIN acceptance a ON a.id = o.acceptance_id WHERE a.state = 'done' AND o.away_at IS NULL;

-- Bringing in has a lane of its own: a file of a million rows keeps no run from being gathered.
CREATE TABLE job_in_lanes (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	lane TEXT NOT NULL CHECK (lane IN ('bringing in', 'reading', 'making', 'sending')),
	payload TEXT NOT NULL,
	-- The run that it is a step of; a run has one step at a time.
	run_id INTEGER REFERENCES run (id),
	-- The file that it reads or accepts.
	file_id INTEGER REFERENCES source_file (id),
	state TEXT NOT NULL CHECK (state IN ('waiting', 'working', 'pausing', 'paused', 'stopping', 'done', 'stopped', 'failed')),
	asked_at TEXT NOT NULL,
	asked_by TEXT NOT NULL,
	started_at TEXT,
	ended_at TEXT,
	done INTEGER NOT NULL DEFAULT 0,
	total INTEGER NOT NULL DEFAULT 0,
	words TEXT NOT NULL DEFAULT ''
) STRICT;
DROP VIEW job_going;
INSERT INTO job_in_lanes (id, kind, lane, payload, run_id, state, asked_at, asked_by, started_at, ended_at, done, total, words)
SELECT id, kind, lane, payload, run_id, state, asked_at, asked_by, started_at, ended_at, done, total, words FROM job;
DROP TABLE job;
ALTER TABLE job_in_lanes RENAME TO job;
CREATE VIEW job_going AS SELECT * FROM job WHERE state NOT IN ('done', 'stopped', 'failed');
CREATE UNIQUE INDEX job_one_a_run ON job (run_id) WHERE state NOT IN ('done', 'stopped', 'failed') AND run_id IS NOT NULL;
CREATE INDEX job_open ON job (lane, id) WHERE state NOT IN ('done', 'stopped', 'failed');
CREATE INDEX job_run ON job (run_id, id);
CREATE INDEX job_file ON job (file_id, id) WHERE file_id IS NOT NULL;
