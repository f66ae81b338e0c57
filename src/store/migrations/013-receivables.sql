-- What an entry is called where its kind alone does not say it (refund, returned payment, debit note), its date as the source has it now
-- where that is not the day from which it counts, and whether it was taken back with the extract that brought it: then it counts on no day.
ALTER TABLE ledger_item ADD COLUMN called TEXT NOT NULL DEFAULT '';
ALTER TABLE ledger_item ADD COLUMN dated TEXT NOT NULL DEFAULT '';
ALTER TABLE ledger_item ADD COLUMN away INTEGER NOT NULL DEFAULT 0;

-- What of an item became otherwise, from a day on: the days before keep what it was.
CREATE TABLE item_change (
	id INTEGER PRIMARY KEY,
	item_id INTEGER NOT NULL REFERENCES ledger_item (id),
	day TEXT NOT NULL,
	amount_was INTEGER NOT NULL,
	amount_is INTEGER NOT NULL CHECK (amount_is > 0),
	due_was TEXT NOT NULL,
	due_is TEXT NOT NULL,
	dated_was TEXT NOT NULL,
	dated_is TEXT NOT NULL,
	reason TEXT NOT NULL,
	extract_id INTEGER REFERENCES extract (id),
	takes_back INTEGER UNIQUE REFERENCES item_change (id),
	at TEXT NOT NULL,
	clerk TEXT NOT NULL
) STRICT;
CREATE INDEX item_change_item ON item_change (item_id, day, id);
CREATE INDEX item_change_day ON item_change (day);
CREATE TRIGGER item_change_keeps BEFORE UPDATE ON item_change BEGIN SELECT RAISE(ABORT, 'changes of items are never changed'); END;
CREATE TRIGGER item_change_stays BEFORE DELETE ON item_change BEGIN SELECT RAISE(ABORT, 'changes of items are never removed'); END;
CREATE TRIGGER item_change_counts AFTER INSERT ON item_change
BEGIN UPDATE ledger_item SET amount = amount + NEW.amount_is - NEW.amount_was, open = open + NEW.amount_is - NEW.amount_was,
	due_day = NEW.due_is, dated = NEW.dated_is WHERE id = NEW.item_id; END;

-- Why an extract was accepted that settles much or does not tie, and whether it was taken back; then the same file may bring another.
CREATE TABLE extract_anew (
	id INTEGER PRIMARY KEY AUTOINCREMENT,
	source_file_id INTEGER NOT NULL REFERENCES source_file (id),
	as_of TEXT NOT NULL,
	accepted_at TEXT NOT NULL,
	accepted_by TEXT NOT NULL,
	reason TEXT NOT NULL DEFAULT '',
	taken_back_at TEXT,
	taken_back_by TEXT,
	taken_back_why TEXT
) STRICT;
INSERT INTO extract_anew (id, source_file_id, as_of, accepted_at, accepted_by) SELECT id, source_file_id, as_of, accepted_at, accepted_by FROM extract;
DROP TABLE extract;
ALTER TABLE extract_anew RENAME TO extract;
CREATE UNIQUE INDEX extract_file ON extract (source_file_id) WHERE taken_back_at IS NULL;
CREATE INDEX extract_day ON extract (as_of, id);
CREATE INDEX application_extract ON application (extract_id) WHERE extract_id IS NOT NULL;
CREATE INDEX item_change_extract ON item_change (extract_id) WHERE extract_id IS NOT NULL;

-- Whether an application is of money that another system's extract has too: what is applied here otherwise may not be known there.
ALTER TABLE application ADD COLUMN known_there INTEGER NOT NULL DEFAULT 0;

-- An act of a person on an account that is more than one entry (a refund, a returned payment, a set-off), and what it entered, so that it
-- can be undone as a whole.
CREATE TABLE account_act (
	id INTEGER PRIMARY KEY,
	customer_id INTEGER NOT NULL REFERENCES customer (id),
	what TEXT NOT NULL,
	reason TEXT NOT NULL,
	day TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	undone_at TEXT,
	undone_by TEXT
) STRICT;
CREATE INDEX account_act_customer ON account_act (customer_id);
ALTER TABLE ledger_item ADD COLUMN act_id INTEGER REFERENCES account_act (id);
CREATE INDEX ledger_item_extract ON ledger_item (extract_id) WHERE extract_id IS NOT NULL;
CREATE INDEX sales_order_file ON sales_order (source_file_id);
CREATE INDEX ledger_item_act ON ledger_item (act_id) WHERE act_id IS NOT NULL;
ALTER TABLE application ADD COLUMN act_id INTEGER REFERENCES account_act (id);
CREATE INDEX application_act ON application (act_id) WHERE act_id IS NOT NULL;

-- The stage of the past-due letter that went with a statement (0 for none), and the work date on which it really went.
ALTER TABLE document ADD COLUMN stage INTEGER NOT NULL DEFAULT 0;
ALTER TABLE document ADD COLUMN went_on TEXT;
UPDATE document SET stage = coalesce((SELECT CAST(substr(json_extract(c.content, '$.letter'), 10) AS INTEGER) FROM document_content c
	WHERE c.document_id = document.id AND json_extract(c.content, '$.letter') LIKE 'past-due-%'), 0) WHERE kind = 'statement';
-- What of a statement's account is otherwise by now, in words, and what of that a person let stand.
ALTER TABLE document ADD COLUMN changed TEXT NOT NULL DEFAULT '';
ALTER TABLE document ADD COLUMN let_stand TEXT NOT NULL DEFAULT '';
-- Papers that a person may have to print: of the many that there are these few.
CREATE INDEX document_to_print ON document (number) WHERE number IS NOT NULL AND email = '' AND printed_at IS NULL AND void_at IS NULL;
CREATE TRIGGER document_stage_frozen BEFORE UPDATE OF stage ON document WHEN OLD.number IS NOT NULL
BEGIN SELECT RAISE(ABORT, 'an issued document is never changed'); END;
CREATE INDEX document_stage ON document (customer_id, currency, stage) WHERE stage > 0;

-- What was charged on an item, and the interest that it comes to (minor units): the least charge is asked once an item.
ALTER TABLE late_charge ADD COLUMN amount INTEGER NOT NULL DEFAULT 0;
ALTER TABLE late_charge ADD COLUMN interest INTEGER NOT NULL DEFAULT 0;

-- What came of a promise so far.
ALTER TABLE promise ADD COLUMN received INTEGER NOT NULL DEFAULT 0;
UPDATE promise SET received = amount WHERE ended = 'kept';

-- Stages of past-due letters: the first after days past due, each next after days since the letter before.
UPDATE setting SET key = 'stages', value = json_array(
	json_object('name', 'Friendly', 'days', json_extract(value, '$[0]'), 'least', 0, 'read', json('false')),
	json_object('name', 'Firm', 'days', max(json_extract(value, '$[1]') - json_extract(value, '$[0]'), 1), 'least', 0, 'read', json('false')),
	json_object('name', 'Final', 'days', max(json_extract(value, '$[2]') - json_extract(value, '$[1]'), 1), 'least', 0, 'read', json('false')))
WHERE key = 'stageDays';
DELETE FROM setting WHERE key = 'letterDays';
-- One rate for all days becomes the rate from the first day on.
UPDATE setting SET value = json_object('rates', iif(json_extract(value, '$.percent') = '', json('[]'),
	json_array(json_object('from', '', 'percent', json_extract(value, '$.percent')))), 'per', json_extract(value, '$.per'),
	'grace', json_extract(value, '$.grace'), 'minimum', json_extract(value, '$.minimum'), 'year', '365') WHERE key = 'lateTerms';
