-- A message that was put off is tried again by itself at `due_at`, as is one that a person sends again from the Postroom; without it, one that
-- waits goes with the step of its run. `tries` and `tried_since` are those that were put off one after the other.
ALTER TABLE message ADD COLUMN due_at TEXT;
ALTER TABLE message ADD COLUMN tries INTEGER NOT NULL DEFAULT 0;
ALTER TABLE message ADD COLUMN tried_since TEXT;
-- Why a person keeps it back in the Postroom; nothing while they do not.
ALTER TABLE message ADD COLUMN kept_back TEXT;
CREATE INDEX message_due ON message (due_at) WHERE due_at IS NOT NULL;

-- What became of each copy of a message that was sent to the one it is addressed to.
CREATE TABLE message_copy (
	message_id INTEGER NOT NULL REFERENCES message (id),
	address TEXT NOT NULL,
	-- Read by all, or by nobody but its reader.
	role TEXT NOT NULL CHECK (role IN ('cc', 'bcc')),
	-- `let be`: a person left it at that.
	state TEXT NOT NULL CHECK (state IN ('waiting', 'sending', 'sent', 'refused', 'unsure', 'let be')),
	answer TEXT NOT NULL,
	tries INTEGER NOT NULL DEFAULT 0,
	PRIMARY KEY (message_id, address)
) STRICT, WITHOUT ROWID;
CREATE INDEX message_copy_open ON message_copy (state) WHERE state NOT IN ('sent', 'let be');

-- What the server said of each recipient: JSON of address, code and answer. `copy` is the address of one that was sent alone.
ALTER TABLE attempt ADD COLUMN said TEXT NOT NULL DEFAULT '[]';
ALTER TABLE attempt ADD COLUMN copy TEXT NOT NULL DEFAULT '';

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
		WHEN m.state = 'waiting' AND m.kept_back IS NOT NULL THEN 'kept back'
		WHEN m.state = 'waiting' AND m.due_at IS NOT NULL THEN 'put off'
		WHEN m.state IS NOT NULL THEN 'waiting'
		WHEN d.message_held = 1 THEN 'to read'
		ELSE 'made'
	END AS place
FROM document d LEFT JOIN message m ON m.document_id = d.id;
