-- What customers owe. Items and what was applied to them are only ever added: taking an application back is another one, below
-- zero and dated the day it was taken back, so that no balance of a day past is changed by it.
CREATE TABLE ledger_item (
	id INTEGER PRIMARY KEY,
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	kind TEXT NOT NULL CHECK (kind IN ('invoice', 'credit', 'payment', 'charge', 'adjustment')),
	-- Whether it is owed by the customer (debit) or to them (credit).
	side TEXT NOT NULL CHECK (side IN ('debit', 'credit')),
	number TEXT NOT NULL,
	day TEXT NOT NULL,
	due_day TEXT NOT NULL,
	currency TEXT NOT NULL,
	-- Minor units, above zero.
	amount INTEGER NOT NULL CHECK (amount > 0),
	-- What is left of it after every application, kept by the trigger below.
	open INTEGER NOT NULL CHECK (open >= 0 AND open <= amount),
	their_order TEXT NOT NULL,
	note TEXT NOT NULL,
	-- The document issued here that it stands for.
	document_id INTEGER UNIQUE REFERENCES document (id),
	-- The latest extract that it stood in.
	extract_id INTEGER REFERENCES extract (id),
	entered_at TEXT NOT NULL,
	entered_by TEXT NOT NULL
) STRICT;
CREATE INDEX ledger_item_customer ON ledger_item (customer_id, currency);
CREATE INDEX ledger_item_number ON ledger_item (number);
CREATE INDEX ledger_item_day ON ledger_item (day);
CREATE INDEX ledger_item_open ON ledger_item (customer_id, currency, side, due_day, open, day) WHERE open > 0;
CREATE TRIGGER ledger_item_stays BEFORE DELETE ON ledger_item BEGIN SELECT RAISE(ABORT, 'ledger items are never removed'); END;
CREATE TRIGGER ledger_item_keeps BEFORE UPDATE OF customer_id, side, currency, day, document_id ON ledger_item
BEGIN SELECT RAISE(ABORT, 'a ledger item is never changed into another'); END;

-- What of a credit went to a debit, on which day; an extract knows only one of the two.
CREATE TABLE application (
	id INTEGER PRIMARY KEY,
	debit_id INTEGER REFERENCES ledger_item (id),
	credit_id INTEGER REFERENCES ledger_item (id),
	day TEXT NOT NULL,
	amount INTEGER NOT NULL CHECK (amount <> 0),
	reason TEXT NOT NULL,
	extract_id INTEGER REFERENCES extract (id),
	-- The application that it takes back.
	takes_back INTEGER UNIQUE REFERENCES application (id),
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	CHECK (debit_id IS NOT NULL OR credit_id IS NOT NULL)
) STRICT;
CREATE INDEX application_debit ON application (debit_id, day, amount);
CREATE INDEX application_credit ON application (credit_id, day, amount);
CREATE INDEX application_day ON application (day);
CREATE TRIGGER application_keeps BEFORE UPDATE ON application BEGIN SELECT RAISE(ABORT, 'applications are never changed'); END;
CREATE TRIGGER application_stays BEFORE DELETE ON application BEGIN SELECT RAISE(ABORT, 'applications are never removed'); END;
CREATE TRIGGER application_counts AFTER INSERT ON application
BEGIN UPDATE ledger_item SET open = open - NEW.amount WHERE id IN (NEW.debit_id, NEW.credit_id); END;

-- An item is in dispute from a day on, until it is no longer.
CREATE TABLE dispute (
	id INTEGER PRIMARY KEY,
	item_id INTEGER NOT NULL REFERENCES ledger_item (id),
	since TEXT NOT NULL,
	note TEXT NOT NULL,
	ended TEXT,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL
) STRICT;
CREATE INDEX dispute_item ON dispute (item_id);

-- All open items of another system as of a day, as they came.
CREATE TABLE extract (
	id INTEGER PRIMARY KEY,
	source_file_id INTEGER NOT NULL UNIQUE REFERENCES source_file (id),
	as_of TEXT NOT NULL,
	accepted_at TEXT NOT NULL,
	accepted_by TEXT NOT NULL
) STRICT;
CREATE TABLE extract_row (
	extract_id INTEGER NOT NULL REFERENCES extract (id),
	source_row INTEGER NOT NULL,
	item_id INTEGER NOT NULL REFERENCES ledger_item (id),
	kind TEXT NOT NULL,
	due_day TEXT NOT NULL,
	amount INTEGER NOT NULL,
	open INTEGER NOT NULL,
	PRIMARY KEY (extract_id, source_row)
) STRICT, WITHOUT ROWID;
CREATE INDEX extract_row_item ON extract_row (item_id);

-- Another address for statements than for invoices; and who is to get no statements (0).
ALTER TABLE customer ADD COLUMN statement_email TEXT NOT NULL DEFAULT '';
ALTER TABLE customer ADD COLUMN statements INTEGER NOT NULL DEFAULT 1;

-- Until when a customer is left in peace, and why; who else reads what is sent to them.
ALTER TABLE customer ADD COLUMN peace_until TEXT NOT NULL DEFAULT '';
ALTER TABLE customer ADD COLUMN peace_reason TEXT NOT NULL DEFAULT '';
ALTER TABLE customer ADD COLUMN cc TEXT NOT NULL DEFAULT '';

-- A payment promised for a day, and what became of it.
CREATE TABLE promise (
	id INTEGER PRIMARY KEY,
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	currency TEXT NOT NULL,
	day TEXT NOT NULL,
	amount INTEGER NOT NULL CHECK (amount > 0),
	note TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	ended TEXT CHECK (ended IN ('kept', 'not kept'))
) STRICT;
CREATE INDEX promise_customer ON promise (customer_id);
CREATE INDEX promise_awaited ON promise (day) WHERE ended IS NULL;

-- Of a statement: what of the account is past due. Its balance stands in net, its total is what the paper asks for.
ALTER TABLE document ADD COLUMN past_due INTEGER NOT NULL DEFAULT 0;
CREATE TRIGGER document_past_due_frozen BEFORE UPDATE OF past_due ON document WHEN OLD.number IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'an issued document is never changed'); END;

-- A message may be held to be read, and written anew for this one document.
ALTER TABLE document ADD COLUMN message_held INTEGER NOT NULL DEFAULT 0;
CREATE TABLE own_message (
	document_id INTEGER PRIMARY KEY REFERENCES document (id) ON DELETE CASCADE,
	subject TEXT NOT NULL,
	body TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL
) STRICT;
ALTER TABLE message ADD COLUMN cc TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN bcc TEXT NOT NULL DEFAULT '';
ALTER TABLE message ADD COLUMN reply_to TEXT NOT NULL DEFAULT '';
-- Ids of documents whose files go along, as JSON.
ALTER TABLE message ADD COLUMN copies TEXT NOT NULL DEFAULT '[]';

-- Until which day an item was charged for being late, and on which statement.
CREATE TABLE late_charge (
	item_id INTEGER NOT NULL REFERENCES ledger_item (id),
	document_id INTEGER NOT NULL REFERENCES document (id),
	charged_to TEXT NOT NULL,
	PRIMARY KEY (item_id, document_id)
) STRICT, WITHOUT ROWID;

-- Letters as they were before a change.
CREATE TABLE letter_version (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	subject TEXT NOT NULL,
	body TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL
) STRICT;
CREATE INDEX letter_version_kind ON letter_version (kind, id);

-- What a run of statements is for, as JSON.
CREATE TABLE run_statement (run_id INTEGER PRIMARY KEY REFERENCES run (id), choice TEXT NOT NULL) STRICT;

-- What was issued before there was a ledger.
INSERT INTO ledger_item (customer_id, kind, side, number, day, due_day, currency, amount, open, their_order, note, document_id, entered_at, entered_by)
SELECT d.customer_id, iif(d.total > 0, 'invoice', 'credit'), iif(d.total > 0, 'debit', 'credit'), json_extract(c.content, '$.number'), d.day,
	iif(d.total > 0, d.due_day, d.day), d.currency, abs(d.total), abs(d.total), '', '', d.id, d.numbered_at, 'North Tally'
FROM document d JOIN document_content c ON c.document_id = d.id
WHERE d.number IS NOT NULL AND d.void_at IS NULL AND d.replaced_at IS NULL AND d.total <> 0;
