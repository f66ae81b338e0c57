-- What an extract calls an item, where a person said that it is the same as one here that is written otherwise: the next one is known by it.
ALTER TABLE extract_row ADD COLUMN number TEXT NOT NULL DEFAULT '';
-- Whether the file of an extract ended with a total or a count of its own, and with the end of a line: one without, after one with, may be cut off.
ALTER TABLE extract ADD COLUMN totalled INTEGER NOT NULL DEFAULT 0;
ALTER TABLE extract ADD COLUMN line_ended INTEGER NOT NULL DEFAULT 0;

-- What kind an item was taken for, and is; empty where that stays. It always was what it is: no day past has it otherwise.
ALTER TABLE item_change ADD COLUMN kind_was TEXT NOT NULL DEFAULT '';
ALTER TABLE item_change ADD COLUMN kind_is TEXT NOT NULL DEFAULT '';
DROP TRIGGER item_change_counts;
CREATE TRIGGER item_change_counts AFTER INSERT ON item_change
BEGIN UPDATE ledger_item SET amount = amount + NEW.amount_is - NEW.amount_was, open = open + NEW.amount_is - NEW.amount_was,
	due_day = NEW.due_is, dated = NEW.dated_is, kind = CASE WHEN NEW.kind_is = '' THEN kind ELSE NEW.kind_is END WHERE id = NEW.item_id; END;

-- The dispute of an item that an extract moved elsewhere went with it.
ALTER TABLE dispute ADD COLUMN carried_to INTEGER REFERENCES dispute (id);
CREATE INDEX dispute_carried ON dispute (carried_to) WHERE carried_to IS NOT NULL;

-- The same bytes are another extract where nothing was otherwise on a later day; one of the same day is refused by its day.
DROP INDEX source_file_accepted_once;
CREATE UNIQUE INDEX source_file_accepted_once ON source_file (sha256) WHERE state = 'accepted' AND kind <> 'open items';

-- Charges that files brought before a debit note was a kind of its own: each may be one, which nothing here tells. A person says so.
CREATE TABLE kind_question (
	item_id INTEGER NOT NULL PRIMARY KEY REFERENCES ledger_item (id),
	said TEXT NOT NULL DEFAULT '' CHECK (said IN ('', 'charge', 'debit note'))
) STRICT, WITHOUT ROWID;
INSERT INTO kind_question (item_id) SELECT id FROM ledger_item
	WHERE kind = 'charge' AND side = 'debit' AND called = '' AND away = 0 AND extract_id IS NOT NULL AND document_id IS NULL AND open > 0;

-- What happened on an account is read from the latest back, and what extracts settled alone is found by itself.
CREATE INDEX ledger_item_account ON ledger_item (customer_id, currency, day) WHERE away = 0;
CREATE INDEX application_alone ON application (credit_id, day, amount) WHERE debit_id IS NULL;
