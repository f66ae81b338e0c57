-- Discounts with a name: a percent, or an amount of a currency, on documents dated from and to (no `to_day`: until further notice).
-- `for_all`: taken on every invoice; else on the orders that name it and the drafts it is put on.
CREATE TABLE discount (
	label TEXT PRIMARY KEY COLLATE NOCASE,
	percent TEXT NOT NULL,
	amount TEXT NOT NULL,
	currency TEXT NOT NULL,
	from_day TEXT NOT NULL,
	to_day TEXT NOT NULL,
	for_all INTEGER NOT NULL,
	CHECK ((percent = '') <> (amount = ''))
) STRICT, WITHOUT ROWID;

-- Percent that the customer always gets.
ALTER TABLE customer ADD COLUMN discount TEXT NOT NULL DEFAULT '0';

-- `freight` is empty where the order names none, so that the firm's own rule counts; '0' where it says none is charged.
ALTER TABLE sales_order ADD COLUMN discount_label TEXT NOT NULL DEFAULT '';
ALTER TABLE sales_order ADD COLUMN freight_percent TEXT NOT NULL DEFAULT '';
-- The order that these lines were divided from.
ALTER TABLE sales_order ADD COLUMN part_of INTEGER REFERENCES sales_order (id);
CREATE INDEX sales_order_part ON sales_order (part_of) WHERE part_of IS NOT NULL;

-- What the documents of the run are numbered by.
ALTER TABLE run ADD COLUMN numbering TEXT NOT NULL DEFAULT 'customer' CHECK (numbering IN ('customer', 'order-day', 'order-number'));

-- A revision bears its invoice's number, and says that it is one; the document it stands in for is kept, and marked.
ALTER TABLE document ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
ALTER TABLE document ADD COLUMN revises_id INTEGER REFERENCES document (id);
ALTER TABLE document ADD COLUMN replaced_at TEXT;
ALTER TABLE document ADD COLUMN replaced_by TEXT;
ALTER TABLE document ADD COLUMN replaced_reason TEXT;
CREATE UNIQUE INDEX document_revises_once ON document (revises_id) WHERE revises_id IS NOT NULL;

-- What a change did: to the content, or it divided a document or put two together; `kept` is what it takes to undo that.
ALTER TABLE document_change ADD COLUMN kind TEXT NOT NULL DEFAULT 'content' CHECK (kind IN ('content', 'divided', 'merged'));
ALTER TABLE document_change ADD COLUMN kept TEXT NOT NULL DEFAULT '';

-- A step can also pause, and go on as the same step.
CREATE TABLE job_that_pauses (
	id INTEGER PRIMARY KEY,
	run_id INTEGER NOT NULL REFERENCES run (id),
	step TEXT NOT NULL CHECK (step IN ('gather', 'number', 'make', 'send')),
	state TEXT NOT NULL CHECK (state IN ('waiting', 'working', 'pausing', 'paused', 'stopping', 'done', 'stopped', 'failed')),
	asked_at TEXT NOT NULL,
	asked_by TEXT NOT NULL,
	started_at TEXT,
	ended_at TEXT,
	done INTEGER NOT NULL DEFAULT 0,
	total INTEGER NOT NULL DEFAULT 0,
	words TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO job_that_pauses SELECT id, run_id, step, state, asked_at, asked_by, started_at, ended_at, done, total, words FROM job;
DROP TABLE job;
ALTER TABLE job_that_pauses RENAME TO job;
CREATE UNIQUE INDEX job_one_a_run ON job (run_id) WHERE state NOT IN ('done', 'stopped', 'failed');
CREATE INDEX job_open ON job (id) WHERE state NOT IN ('done', 'stopped', 'failed');
