-- How often anything was written that a customer's statements and letters go by: each such write moves it, in its own step, whoever does it and by
-- whatever act. Customer 0 is what touches all of them. A statement that was looked at when it stood as it does is as it was then.
CREATE TABLE account_moves (
	customer_id INTEGER NOT NULL PRIMARY KEY,
	moves INTEGER NOT NULL
) STRICT;
-- At which count, and for which work date, a statement was found to be true.
CREATE TABLE statement_look (
	document_id INTEGER NOT NULL PRIMARY KEY REFERENCES document (id) ON DELETE CASCADE,
	moves INTEGER NOT NULL,
	day TEXT NOT NULL
) STRICT;

-- What applies, changes or settles an item updates it, so that these two stand for applications and changes of items as well.
CREATE TRIGGER moves_item_added AFTER INSERT ON ledger_item
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_item_changed AFTER UPDATE ON ledger_item
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_dispute_added AFTER INSERT ON dispute
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = NEW.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_dispute_changed AFTER UPDATE ON dispute
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = NEW.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_dispute_gone AFTER DELETE ON dispute
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = OLD.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_promise_added AFTER INSERT ON promise
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_promise_changed AFTER UPDATE ON promise
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_promise_gone AFTER DELETE ON promise
BEGIN INSERT INTO account_moves VALUES (OLD.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_charge_added AFTER INSERT ON late_charge
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = NEW.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_charge_changed AFTER UPDATE ON late_charge
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = NEW.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_charge_gone AFTER DELETE ON late_charge
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM ledger_item WHERE id = OLD.item_id ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_customer_changed AFTER UPDATE ON customer
BEGIN INSERT INTO account_moves VALUES (NEW.id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
-- A statement of theirs that is drafted, held, numbered, posted or made void: whether another may bring a letter or a charge goes by it.
CREATE TRIGGER moves_statement_added AFTER INSERT ON document WHEN NEW.kind = 'statement'
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_statement_changed AFTER UPDATE OF customer_id, currency, day, email, stage, number, held_reason, dropped_at, void_at, replaced_at, printed_at, only_filed_at, went_on
	ON document WHEN NEW.kind = 'statement'
BEGIN INSERT INTO account_moves VALUES (NEW.customer_id, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_content_changed AFTER UPDATE OF content ON document_content
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM document WHERE id = NEW.document_id AND kind = 'statement'
	ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_message_added AFTER INSERT ON message
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM document WHERE id = NEW.document_id AND kind = 'statement'
	ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_message_changed AFTER UPDATE OF state, document_id ON message
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM document WHERE id = NEW.document_id AND kind = 'statement'
	ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_message_gone AFTER DELETE ON message
BEGIN INSERT INTO account_moves SELECT customer_id, 1 FROM document WHERE id = OLD.document_id AND kind = 'statement'
	ON CONFLICT DO UPDATE SET moves = moves + 1; END;

-- What touches all: the firm, its settings, the layouts in force, a run of statements that ended, an extract that was taken back.
CREATE TRIGGER moves_all_run AFTER UPDATE OF state ON run WHEN NEW.kind = 'statement' AND NEW.state NOT IN ('gathering', 'open')
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_extract AFTER UPDATE OF taken_back_at ON extract
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_company_added AFTER INSERT ON company
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_company_changed AFTER UPDATE ON company
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_setting_added AFTER INSERT ON setting
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_setting_changed AFTER UPDATE ON setting
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_setting_gone AFTER DELETE ON setting
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_layout AFTER UPDATE ON layout
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_version AFTER INSERT ON layout_version
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_choice_added AFTER INSERT ON layout_choice
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_choice_changed AFTER UPDATE ON layout_choice
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;
CREATE TRIGGER moves_all_choice_gone AFTER DELETE ON layout_choice
BEGIN INSERT INTO account_moves VALUES (0, 1) ON CONFLICT DO UPDATE SET moves = moves + 1; END;

-- What the paper said when a message was written by hand for it (its fields, as JSON): what of it the message names may be otherwise by now.
ALTER TABLE own_message ADD COLUMN said TEXT NOT NULL DEFAULT '';

-- A debit note is no charge: it bears late charges as an invoice does.
PRAGMA writable_schema = ON;
UPDATE sqlite_schema SET sql = replace(sql, '''charge'', ''adjustment''', '''charge'', ''debit note'', ''adjustment''') WHERE type = 'table' AND name = 'ledger_item';
PRAGMA writable_schema = RESET;
UPDATE ledger_item SET kind = 'debit note', called = '' WHERE kind = 'charge' AND called = 'debit note';

-- What came of a promise by which payment, or went away with it (below zero), and by which act: so that taking a payment away, or undoing that, finds just
-- what it did.
CREATE TABLE promise_receipt (
	id INTEGER PRIMARY KEY AUTOINCREMENT,
	promise_id INTEGER NOT NULL REFERENCES promise (id),
	item_id INTEGER NOT NULL REFERENCES ledger_item (id),
	amount INTEGER NOT NULL CHECK (amount <> 0),
	act_id INTEGER REFERENCES account_act (id)
) STRICT;
CREATE INDEX promise_receipt_item ON promise_receipt (item_id);
CREATE INDEX promise_receipt_act ON promise_receipt (act_id) WHERE act_id IS NOT NULL;

-- Nothing is entered as of a day to which the books are closed, by whatever act.
CREATE TRIGGER ledger_item_closed BEFORE INSERT ON ledger_item
WHEN NEW.day <= (SELECT json_extract(value, '$') FROM setting WHERE key = 'closedTo')
BEGIN SELECT RAISE(ABORT, 'the books are closed to the day of this entry'); END;
CREATE TRIGGER application_closed BEFORE INSERT ON application
WHEN NEW.day <= (SELECT json_extract(value, '$') FROM setting WHERE key = 'closedTo')
BEGIN SELECT RAISE(ABORT, 'the books are closed to the day of this entry'); END;
CREATE TRIGGER item_change_closed BEFORE INSERT ON item_change
WHEN NEW.day <= (SELECT json_extract(value, '$') FROM setting WHERE key = 'closedTo')
BEGIN SELECT RAISE(ABORT, 'the books are closed to the day of this entry'); END;
CREATE TRIGGER dispute_closed BEFORE INSERT ON dispute
WHEN NEW.since <= (SELECT json_extract(value, '$') FROM setting WHERE key = 'closedTo')
BEGIN SELECT RAISE(ABORT, 'the books are closed to the day of this entry'); END;
CREATE TRIGGER dispute_end_closed BEFORE UPDATE OF ended ON dispute
WHEN NEW.ended <= (SELECT json_extract(value, '$') FROM setting WHERE key = 'closedTo')
BEGIN SELECT RAISE(ABORT, 'the books are closed to the day of this entry'); END;
