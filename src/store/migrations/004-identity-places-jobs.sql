-- Each line of an order keeps an id of its own wherever it is moved, and its values as they were brought in. `agreed` holds what a
-- person changed of it on a draft that was given back: JSON of the values, with who, when and why.
CREATE TABLE order_line_with_id (
	id INTEGER PRIMARY KEY,
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
	agreed TEXT,
	-- The document that it stands on: one at the most, by its place in this column.
	document_id INTEGER REFERENCES document (id),
	UNIQUE (order_id, position)
) STRICT;
INSERT INTO order_line_with_id (order_id, position, source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code, document_id)
SELECT l.order_id, l.position, l.source_row, l.item_code, l.description, l.quantity, l.unit, l.unit_price, l.price_per, l.discount_percent, l.tax_code, o.document_id
FROM order_line l JOIN sales_order o ON o.id = l.order_id ORDER BY l.order_id, l.position;
DROP TABLE order_line;
ALTER TABLE order_line_with_id RENAME TO order_line;
CREATE INDEX order_line_document ON order_line (document_id) WHERE document_id IS NOT NULL;
CREATE TRIGGER order_line_keeps BEFORE UPDATE OF source_row, item_code, description, quantity, unit, unit_price, price_per, discount_percent, tax_code
ON order_line BEGIN SELECT RAISE(ABORT, 'a line stays as it was brought in'); END;
CREATE TRIGGER order_line_stays BEFORE DELETE ON order_line BEGIN SELECT RAISE(ABORT, 'a line of an order is never removed'); END;

-- A part that was put back on its order stays, empty and out of sight, since the record speaks of it. `shared` is what a draft had of
-- discounts and freight for the order when it was divided: JSON; empty while the order's own terms and the firm's rules count.
ALTER TABLE sales_order ADD COLUMN joined_to INTEGER REFERENCES sales_order (id);
ALTER TABLE sales_order ADD COLUMN shared TEXT;
-- Hash of what was ordered with every figure written in one way (2 and 2.00 are the same), by which twins are found.
ALTER TABLE sales_order ADD COLUMN same_as TEXT NOT NULL DEFAULT '';
UPDATE sales_order SET same_as = content_sha256;
CREATE INDEX sales_order_same ON sales_order (same_as);
CREATE TRIGGER sales_order_stays BEFORE DELETE ON sales_order BEGIN SELECT RAISE(ABORT, 'an order is never removed'); END;
DROP INDEX sales_order_waiting;
CREATE INDEX sales_order_waiting ON sales_order (day) WHERE run_id IS NULL AND joined_to IS NULL;

-- What a run took in: each order with its net as it was gathered, apart from any draft. Never changed afterwards.
CREATE TABLE run_order (
	run_id INTEGER NOT NULL REFERENCES run (id),
	order_id INTEGER NOT NULL REFERENCES sales_order (id),
	currency TEXT NOT NULL,
	net INTEGER NOT NULL,
	PRIMARY KEY (run_id, order_id)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER run_order_keeps BEFORE UPDATE ON run_order BEGIN SELECT RAISE(ABORT, 'what a run took in is never changed'); END;
INSERT INTO run_order (run_id, order_id, currency, net)
SELECT o.run_id, coalesce(o.part_of, o.id), o.currency, sum(o.net) FROM sales_order o JOIN run r ON r.id = o.run_id
WHERE r.state = 'open' AND r.kind = 'invoice' GROUP BY 1, 2;
-- How far the record had come when the drafts of a run were last checked: what happened since may concern them.
ALTER TABLE run ADD COLUMN checked_to INTEGER NOT NULL DEFAULT 0;

-- A draft that is put on another, put back or given back is dropped, never removed: its id is its own for good.
ALTER TABLE document ADD COLUMN dropped_at TEXT;
ALTER TABLE document ADD COLUMN dropped_by TEXT;
ALTER TABLE document ADD COLUMN dropped_reason TEXT;
-- How many lines of orders it stands for; as many must name it.
ALTER TABLE document ADD COLUMN line_count INTEGER NOT NULL DEFAULT 0;
UPDATE document SET line_count = coalesce((SELECT json_array_length(c.content, '$.lines') FROM document_content c WHERE c.document_id = document.id), 0)
WHERE kind = 'invoice';
CREATE TRIGGER document_never_removed BEFORE DELETE ON document BEGIN SELECT RAISE(ABORT, 'a document is never removed'); END;
DROP TRIGGER document_stays;

-- A change concerns one draft, or two: the one divided and what left it, the one that takes in and the one put on it.
-- `effect` is by how much it moved the nets of them together.
ALTER TABLE document_change ADD COLUMN other_id INTEGER REFERENCES document (id);
ALTER TABLE document_change ADD COLUMN effect INTEGER NOT NULL DEFAULT 0;
CREATE INDEX document_change_other ON document_change (other_id) WHERE other_id IS NOT NULL;
UPDATE document_change SET other_id = (SELECT d.id FROM document d WHERE d.id = json_extract(kept, '$.to'))
WHERE kind = 'divided' AND document_id = json_extract(kept, '$.from');
DELETE FROM document_change WHERE kind = 'divided' AND document_id = json_extract(kept, '$.to');

-- The record holds on to what it speaks of.
ALTER TABLE event ADD COLUMN document_id INTEGER REFERENCES document (id);
ALTER TABLE event ADD COLUMN order_id INTEGER REFERENCES sales_order (id);
ALTER TABLE event ADD COLUMN run_id INTEGER REFERENCES run (id);
DROP TRIGGER event_keeps;
-- A draft's id went to another once it was thrown away: only what happened since the document's own run began is its own.
UPDATE event SET document_id = (
	SELECT d.id FROM document d JOIN run r ON r.id = d.run_id WHERE d.id = CAST(event.subject_id AS INTEGER) AND r.started_at <= event.at)
WHERE subject = 'document';
UPDATE event SET run_id = (SELECT r.id FROM run r WHERE r.id = CAST(event.subject_id AS INTEGER)) WHERE subject = 'run';
CREATE TRIGGER event_keeps BEFORE UPDATE ON event BEGIN SELECT RAISE(ABORT, 'events are never changed'); END;
CREATE INDEX event_document ON event (document_id) WHERE document_id IS NOT NULL;
CREATE INDEX event_order ON event (order_id) WHERE order_id IS NOT NULL;

-- Lines of drafts say which line of their order they are.
UPDATE document_content SET content = json_set(content, '$.lines', json((
	SELECT json_group_array(json(line)) FROM (
		SELECT json_set(l.value, '$.line', coalesce((
			SELECT o.id FROM order_line o
			WHERE o.order_id = json_extract(document_content.content, '$.orders[' || json_extract(l.value, '$.order') || '].id')
				AND o.source_row = json_extract(l.value, '$.sourceRow')), 0)) AS line
		FROM json_each(document_content.content, '$.lines') l ORDER BY l.key))))
WHERE frozen = 0 AND json_extract(content, '$.kind') = 'invoice';

-- Where a document stands, and so what may be done with it next: said here alone.
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
		WHEN d.email = '' THEN 'to print'
		WHEN m.state IN ('refused', 'unsure') THEN m.state
		WHEN m.state IS NOT NULL THEN 'waiting'
		WHEN d.message_held = 1 THEN 'to read'
		ELSE 'made'
	END AS place
FROM document d LEFT JOIN message m ON m.document_id = d.id;

-- A register counts by year where it begins again each year, else in the one row of year 0.
CREATE TABLE register_count (
	register_id INTEGER NOT NULL REFERENCES register (id),
	year INTEGER NOT NULL,
	next INTEGER NOT NULL,
	-- Who moved it on by hand, and when; the numbers left out are noted when the next one is given.
	moved_by TEXT,
	moved_at TEXT,
	PRIMARY KEY (register_id, year)
) STRICT, WITHOUT ROWID;
INSERT INTO register_count (register_id, year, next)
SELECT register_id, year, max(next) FROM (
	SELECT r.id AS register_id, iif(r.yearly = 1, r.year, 0) AS year, r.next AS next FROM register r
	UNION ALL SELECT d.register_id, d.register_year, max(d.register_value) + 1 FROM document d WHERE d.register_id IS NOT NULL GROUP BY 1, 2
) GROUP BY 1, 2;
ALTER TABLE register DROP COLUMN next;
ALTER TABLE register DROP COLUMN year;
CREATE TABLE register_skip_by_year (
	register_id INTEGER NOT NULL REFERENCES register (id),
	year INTEGER NOT NULL,
	first INTEGER NOT NULL,
	last INTEGER NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	PRIMARY KEY (register_id, year, first)
) STRICT, WITHOUT ROWID;
-- Of what was noted as left out, only what lies between two numbers that were given is left out in truth.
INSERT INTO register_skip_by_year (register_id, year, first, last, at, clerk)
SELECT g.register_id, g.year, g.value + 1, g.following - 1, s.at, s.clerk FROM (
	SELECT register_id, register_year AS year, register_value AS value,
		lead(register_value) OVER (PARTITION BY register_id, register_year ORDER BY register_value) AS following
	FROM document WHERE register_value IS NOT NULL) g
JOIN register_skip s ON s.register_id = g.register_id AND s.first = g.value + 1 AND s.last >= g.following - 1
WHERE g.following > g.value + 1;
-- One that was moved on and has given none since.
UPDATE register_count SET moved_by = s.clerk, moved_at = s.at FROM register_skip s
WHERE s.register_id = register_count.register_id AND register_count.year = 0 AND register_count.next = s.last + 1;
DROP TABLE register_skip;
ALTER TABLE register_skip_by_year RENAME TO register_skip;

-- What the runner is asked for: a kind and what it needs, in a lane of its own, so that a slow one holds no other up.
CREATE TABLE job_of_kind (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	lane TEXT NOT NULL CHECK (lane IN ('reading', 'making', 'sending')),
	payload TEXT NOT NULL,
	-- The run that it is a step of; a run has one step at a time.
	run_id INTEGER REFERENCES run (id),
	state TEXT NOT NULL CHECK (state IN ('waiting', 'working', 'pausing', 'paused', 'stopping', 'done', 'stopped', 'failed')),
	asked_at TEXT NOT NULL,
	asked_by TEXT NOT NULL,
	started_at TEXT,
	ended_at TEXT,
	done INTEGER NOT NULL DEFAULT 0,
	total INTEGER NOT NULL DEFAULT 0,
	words TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO job_of_kind (id, kind, lane, payload, run_id, state, asked_at, asked_by, started_at, ended_at, done, total, words)
SELECT id, step, CASE step WHEN 'make' THEN 'making' WHEN 'send' THEN 'sending' ELSE 'reading' END, json_object('run', run_id, 'expected', total), run_id,
	state, asked_at, asked_by, started_at, ended_at, done, total, words FROM job;
DROP TABLE job;
ALTER TABLE job_of_kind RENAME TO job;
CREATE VIEW job_going AS SELECT * FROM job WHERE state NOT IN ('done', 'stopped', 'failed');
CREATE UNIQUE INDEX job_one_a_run ON job (run_id) WHERE state NOT IN ('done', 'stopped', 'failed') AND run_id IS NOT NULL;
CREATE INDEX job_open ON job (lane, id) WHERE state NOT IN ('done', 'stopped', 'failed');
CREATE INDEX job_run ON job (run_id, id);

-- What the law asks of a paper: why there is no tax, in the customer's language; and the worth of a currency (1 of it) in the home currency.
CREATE TABLE tax_ground (
	code TEXT NOT NULL,
	language TEXT NOT NULL,
	words TEXT NOT NULL,
	PRIMARY KEY (code, language)
) STRICT, WITHOUT ROWID;
CREATE TABLE exchange_rate (
	currency TEXT NOT NULL,
	day TEXT NOT NULL,
	rate TEXT NOT NULL,
	PRIMARY KEY (currency, day)
) STRICT, WITHOUT ROWID;
