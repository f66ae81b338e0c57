-- What was last written to each row of what is settled rather than in work, and with which event: so that whatever is changed behind the
-- program's back is seen, with who left it otherwise. `event_id` is null where a step recorded nothing, 0 for what books began with.
CREATE TABLE row_seal (
	name TEXT NOT NULL,
	key TEXT NOT NULL,
	seal TEXT NOT NULL,
	event_id INTEGER,
	PRIMARY KEY (name, key)
) STRICT, WITHOUT ROWID;
