-- Amounts: INTEGER minor units beside a currency. Quantities, prices, rates: TEXT decimals. Days: ISO text. Times: UTC ISO text.

CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT, WITHOUT ROWID;

CREATE TABLE clerk (name TEXT PRIMARY KEY, since TEXT NOT NULL) STRICT, WITHOUT ROWID;

-- Append-only: what a person or the runner did, and to what.
CREATE TABLE event (
	id INTEGER PRIMARY KEY,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	subject TEXT NOT NULL,
	subject_id TEXT NOT NULL,
	act TEXT NOT NULL,
	detail TEXT NOT NULL DEFAULT '',
	before TEXT,
	after TEXT
) STRICT;
CREATE INDEX event_subject ON event (subject, subject_id);
CREATE TRIGGER event_keeps BEFORE UPDATE ON event BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
CREATE TRIGGER event_stays BEFORE DELETE ON event BEGIN SELECT RAISE(ABORT, 'events are never removed'); END;

CREATE TABLE company (
	id INTEGER PRIMARY KEY CHECK (id = 1),
	name TEXT NOT NULL,
	address TEXT NOT NULL,
	country TEXT NOT NULL,
	tax_number TEXT NOT NULL,
	email TEXT NOT NULL,
	phone TEXT NOT NULL,
	bank TEXT NOT NULL,
	currency TEXT NOT NULL,
	closing_words TEXT NOT NULL,
	logo_sha256 TEXT REFERENCES image (sha256)
) STRICT;

-- Pictures that documents refer to by their hash, so that an issued document keeps the logo it was issued with.
CREATE TABLE image (sha256 TEXT PRIMARY KEY, type TEXT NOT NULL, bytes BLOB NOT NULL) STRICT, WITHOUT ROWID;
CREATE TRIGGER image_keeps BEFORE UPDATE ON image BEGIN SELECT RAISE(ABORT, 'pictures are never changed'); END;

CREATE TABLE tax_code (code TEXT PRIMARY KEY, name TEXT NOT NULL) STRICT, WITHOUT ROWID;
CREATE TABLE tax_rate (
	code TEXT NOT NULL REFERENCES tax_code (code),
	from_day TEXT NOT NULL,
	rate TEXT NOT NULL,
	PRIMARY KEY (code, from_day)
) STRICT, WITHOUT ROWID;

CREATE TABLE item (
	code TEXT PRIMARY KEY,
	description TEXT NOT NULL,
	unit TEXT NOT NULL,
	unit_price TEXT NOT NULL,
	price_per TEXT NOT NULL DEFAULT '1',
	currency TEXT NOT NULL,
	tax_code TEXT NOT NULL REFERENCES tax_code (code)
) STRICT, WITHOUT ROWID;

CREATE TABLE customer (
	id INTEGER PRIMARY KEY,
	number TEXT NOT NULL UNIQUE,
	name TEXT NOT NULL,
	address TEXT NOT NULL,
	country TEXT NOT NULL,
	email TEXT NOT NULL,
	contact TEXT NOT NULL,
	currency TEXT NOT NULL,
	locale TEXT NOT NULL,
	terms TEXT NOT NULL,
	tax TEXT NOT NULL CHECK (tax IN ('standard', 'exempt', 'reverse-charge')),
	tax_number TEXT NOT NULL,
	grouping TEXT NOT NULL CHECK (grouping IN ('order', 'all', 'purchase-order')),
	credit_limit INTEGER,
	-- Why nothing is to be billed to them at present; empty when it may be.
	hold TEXT NOT NULL DEFAULT '',
	wants_order INTEGER NOT NULL DEFAULT 0,
	note TEXT NOT NULL DEFAULT ''
) STRICT;

-- A file that was brought in. `content` is the file as it came.
CREATE TABLE source_file (
	id INTEGER PRIMARY KEY,
	name TEXT NOT NULL,
	sha256 TEXT NOT NULL,
	size INTEGER NOT NULL,
	content BLOB NOT NULL,
	kind TEXT NOT NULL,
	reading TEXT NOT NULL,
	state TEXT NOT NULL CHECK (state IN ('read', 'accepted', 'dropped')),
	received_at TEXT NOT NULL,
	received_by TEXT NOT NULL,
	accepted_at TEXT,
	accepted_by TEXT,
	result TEXT
) STRICT;
CREATE UNIQUE INDEX source_file_accepted_once ON source_file (sha256) WHERE state = 'accepted';

CREATE TABLE sales_order (
	id INTEGER PRIMARY KEY,
	number TEXT NOT NULL UNIQUE,
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	day TEXT NOT NULL,
	currency TEXT NOT NULL,
	purchase_order TEXT NOT NULL,
	note TEXT NOT NULL,
	discount_percent TEXT NOT NULL,
	freight TEXT NOT NULL,
	freight_tax_code TEXT NOT NULL,
	source_file_id INTEGER NOT NULL REFERENCES source_file (id),
	content_sha256 TEXT NOT NULL,
	net INTEGER NOT NULL,
	line_count INTEGER NOT NULL,
	run_id INTEGER REFERENCES run (id),
	document_id INTEGER REFERENCES document (id),
	billed INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX sales_order_customer ON sales_order (customer_id);
CREATE INDEX sales_order_waiting ON sales_order (day) WHERE run_id IS NULL;
CREATE INDEX sales_order_run ON sales_order (run_id);
CREATE INDEX sales_order_document ON sales_order (document_id);

CREATE TABLE order_line (
	order_id INTEGER NOT NULL REFERENCES sales_order (id),
	position INTEGER NOT NULL,
	source_row INTEGER NOT NULL,
	item_code TEXT NOT NULL,
	description TEXT NOT NULL,
	quantity TEXT NOT NULL,
	unit TEXT NOT NULL,
	unit_price TEXT,
	price_per TEXT NOT NULL,
	discount_percent TEXT NOT NULL,
	tax_code TEXT NOT NULL,
	PRIMARY KEY (order_id, position)
) STRICT, WITHOUT ROWID;

-- A number is the prefix ({year} in it stands for the document's year) and the value padded to `digits`; `next` is given next.
-- A yearly register begins again at `first` in each year; `year` is the one that `next` belongs to.
CREATE TABLE register (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL UNIQUE,
	prefix TEXT NOT NULL,
	digits INTEGER NOT NULL,
	next INTEGER NOT NULL,
	first INTEGER NOT NULL DEFAULT 1,
	yearly INTEGER NOT NULL DEFAULT 0,
	year INTEGER NOT NULL DEFAULT 0
) STRICT;

-- Numbers that a person left out by moving a register on: from first to last, never to be given.
CREATE TABLE register_skip (
	register_id INTEGER NOT NULL REFERENCES register (id),
	first INTEGER NOT NULL,
	last INTEGER NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	PRIMARY KEY (register_id, first)
) STRICT, WITHOUT ROWID;

CREATE TABLE run (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	up_to TEXT NOT NULL,
	document_day TEXT NOT NULL,
	started_at TEXT NOT NULL,
	started_by TEXT NOT NULL,
	state TEXT NOT NULL CHECK (state IN ('gathering', 'open', 'closed', 'given-back')),
	closed_at TEXT,
	closed_by TEXT
) STRICT;

-- What the source system reports for the run, a row a currency.
CREATE TABLE run_source_total (
	run_id INTEGER NOT NULL REFERENCES run (id),
	currency TEXT NOT NULL,
	total INTEGER NOT NULL,
	PRIMARY KEY (run_id, currency)
) STRICT, WITHOUT ROWID;

CREATE TABLE document (
	id INTEGER PRIMARY KEY,
	run_id INTEGER NOT NULL REFERENCES run (id),
	position INTEGER NOT NULL,
	kind TEXT NOT NULL,
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	customer_name TEXT NOT NULL,
	email TEXT NOT NULL,
	currency TEXT NOT NULL,
	order_count INTEGER NOT NULL,
	order_numbers TEXT NOT NULL,
	net INTEGER NOT NULL,
	tax INTEGER NOT NULL,
	total INTEGER NOT NULL,
	day TEXT NOT NULL,
	due_day TEXT NOT NULL,
	level TEXT NOT NULL CHECK (level IN ('stop', 'look', 'clear')),
	held_reason TEXT,
	held_by TEXT,
	held_at TEXT,
	looked_by TEXT,
	looked_at TEXT,
	number TEXT UNIQUE,
	register_id INTEGER REFERENCES register (id),
	register_year INTEGER,
	register_value INTEGER,
	numbered_at TEXT,
	file_name TEXT,
	file_sha256 TEXT,
	file_size INTEGER,
	pages INTEGER,
	made_at TEXT,
	printed_at TEXT,
	printed_by TEXT,
	void_reason TEXT,
	void_at TEXT,
	void_by TEXT,
	-- The invoice that a credit note credits.
	credits_id INTEGER REFERENCES document (id),
	UNIQUE (register_id, register_year, register_value)
) STRICT;
CREATE INDEX document_run ON document (run_id, position);
CREATE INDEX document_customer ON document (customer_id);
CREATE INDEX document_credits ON document (credits_id) WHERE credits_id IS NOT NULL;
CREATE TRIGGER document_frozen BEFORE UPDATE OF
	number, register_id, register_year, register_value, customer_id, credits_id, currency, net, tax, total, day, due_day, order_numbers, kind
ON document WHEN OLD.number IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'an issued document is never changed'); END;
CREATE TRIGGER document_stays BEFORE DELETE ON document WHEN OLD.number IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'an issued document is never removed'); END;
-- The whole content of a document as JSON: a draft, then (in the statement that gives its number) frozen for good. It stands
-- apart from the columns that lists read, since it is long.
CREATE TABLE document_content (
	document_id INTEGER PRIMARY KEY REFERENCES document (id) ON DELETE CASCADE,
	content TEXT NOT NULL,
	frozen INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE TRIGGER document_content_frozen BEFORE UPDATE ON document_content WHEN OLD.frozen = 1
BEGIN SELECT RAISE(ABORT, 'the content of an issued document is never changed'); END;
CREATE TRIGGER document_content_stays BEFORE DELETE ON document_content WHEN OLD.frozen = 1
BEGIN SELECT RAISE(ABORT, 'the content of an issued document is never removed'); END;
-- What a clerk changed on a draft: the content before and after, so that it can be undone and shown.
CREATE TABLE document_change (
	id INTEGER PRIMARY KEY,
	document_id INTEGER NOT NULL REFERENCES document (id) ON DELETE CASCADE,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	reason TEXT NOT NULL,
	words TEXT NOT NULL,
	content_before TEXT NOT NULL,
	email_before TEXT NOT NULL,
	undone_at TEXT
) STRICT;
CREATE INDEX document_change_document ON document_change (document_id);
CREATE TRIGGER document_file_kept BEFORE UPDATE OF file_sha256, file_name ON document WHEN OLD.file_sha256 IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'the file of an issued document is never replaced'); END;

CREATE TABLE finding (
	document_id INTEGER NOT NULL REFERENCES document (id) ON DELETE CASCADE,
	code TEXT NOT NULL,
	place INTEGER NOT NULL,
	level TEXT NOT NULL CHECK (level IN ('stop', 'look')),
	brief TEXT NOT NULL,
	text TEXT NOT NULL,
	order_number TEXT NOT NULL DEFAULT '',
	PRIMARY KEY (document_id, place)
) STRICT, WITHOUT ROWID;

-- One letter a kind of document; {number} and the like are filled in.
CREATE TABLE letter (kind TEXT PRIMARY KEY, subject TEXT NOT NULL, body TEXT NOT NULL) STRICT, WITHOUT ROWID;

CREATE TABLE message (
	id INTEGER PRIMARY KEY,
	document_id INTEGER NOT NULL UNIQUE REFERENCES document (id),
	run_id INTEGER NOT NULL REFERENCES run (id),
	message_id TEXT NOT NULL UNIQUE,
	sender_name TEXT NOT NULL,
	sender TEXT NOT NULL,
	recipient TEXT NOT NULL,
	subject TEXT NOT NULL,
	body TEXT NOT NULL,
	written_at TEXT NOT NULL,
	state TEXT NOT NULL CHECK (state IN ('waiting', 'sending', 'sent', 'refused', 'unsure')),
	last_answer TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX message_run ON message (run_id, state);
CREATE INDEX message_state ON message (state) WHERE state <> 'sent';

-- The sent log: one row an attempt, never changed.
CREATE TABLE attempt (
	id INTEGER PRIMARY KEY,
	message_id INTEGER NOT NULL REFERENCES message (id),
	at TEXT NOT NULL,
	recipient TEXT NOT NULL,
	subject TEXT NOT NULL,
	file_name TEXT NOT NULL,
	file_sha256 TEXT NOT NULL,
	raw_sha256 TEXT NOT NULL,
	outcome TEXT NOT NULL CHECK (outcome IN ('sent', 'refused', 'unsure', 'not sent')),
	answer TEXT NOT NULL,
	practice INTEGER NOT NULL,
	clerk TEXT NOT NULL
) STRICT;
CREATE INDEX attempt_message ON attempt (message_id);
CREATE INDEX attempt_at ON attempt (at);
CREATE TRIGGER attempt_keeps BEFORE UPDATE ON attempt BEGIN SELECT RAISE(ABORT, 'the sent log is never changed'); END;
CREATE TRIGGER attempt_stays BEFORE DELETE ON attempt BEGIN SELECT RAISE(ABORT, 'the sent log is never shortened'); END;

CREATE TABLE job (
	id INTEGER PRIMARY KEY,
	run_id INTEGER NOT NULL REFERENCES run (id),
	step TEXT NOT NULL CHECK (step IN ('gather', 'number', 'make', 'send')),
	state TEXT NOT NULL CHECK (state IN ('waiting', 'working', 'stopping', 'done', 'stopped', 'failed')),
	asked_at TEXT NOT NULL,
	asked_by TEXT NOT NULL,
	started_at TEXT,
	ended_at TEXT,
	done INTEGER NOT NULL DEFAULT 0,
	total INTEGER NOT NULL DEFAULT 0,
	words TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX job_one_a_run ON job (run_id) WHERE state IN ('waiting', 'working', 'stopping');
CREATE INDEX job_open ON job (id) WHERE state IN ('waiting', 'working', 'stopping');
