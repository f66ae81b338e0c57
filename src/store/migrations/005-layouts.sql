-- A layout of a kind of paper. `shipped` names the look that the program brought, so that none is brought twice; one that is taken away
-- stays, since documents were made by it.
CREATE TABLE layout (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	name TEXT NOT NULL,
	shipped TEXT NOT NULL DEFAULT '',
	made_at TEXT NOT NULL,
	made_by TEXT NOT NULL,
	away_at TEXT,
	away_by TEXT
) STRICT;
CREATE UNIQUE INDEX layout_name ON layout (kind, name COLLATE NOCASE) WHERE away_at IS NULL;
CREATE UNIQUE INDEX layout_shipped ON layout (kind, shipped) WHERE shipped <> '';
CREATE TRIGGER layout_stays BEFORE DELETE ON layout BEGIN SELECT RAISE(ABORT, 'a layout is never removed'); END;

-- What was released: documents name it, and are made again by it, for good.
CREATE TABLE layout_version (
	layout_id INTEGER NOT NULL REFERENCES layout (id),
	version INTEGER NOT NULL,
	body TEXT NOT NULL,
	note TEXT NOT NULL,
	released_at TEXT NOT NULL,
	released_by TEXT NOT NULL,
	PRIMARY KEY (layout_id, version)
) STRICT, WITHOUT ROWID;
CREATE TRIGGER layout_version_keeps BEFORE UPDATE ON layout_version BEGIN SELECT RAISE(ABORT, 'a released version is never changed'); END;
CREATE TRIGGER layout_version_stays BEFORE DELETE ON layout_version BEGIN SELECT RAISE(ABORT, 'a released version is never removed'); END;

-- What is in the making: every step of it, so that each can be taken back and done again. `step` of the draft is where it stands.
CREATE TABLE layout_step (
	layout_id INTEGER NOT NULL REFERENCES layout (id),
	step INTEGER NOT NULL,
	body TEXT NOT NULL,
	words TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	PRIMARY KEY (layout_id, step)
) STRICT, WITHOUT ROWID;
CREATE TABLE layout_draft (
	layout_id INTEGER PRIMARY KEY REFERENCES layout (id),
	step INTEGER NOT NULL,
	-- The version that it began from; 0 for none.
	from_version INTEGER NOT NULL,
	FOREIGN KEY (layout_id, step) REFERENCES layout_step (layout_id, step)
) STRICT;

-- Who gets which: the firm's choice for a kind, that for a language, and a customer's own.
CREATE TABLE layout_choice (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	customer_id INTEGER REFERENCES customer (id),
	language TEXT NOT NULL DEFAULT '',
	layout_id INTEGER NOT NULL REFERENCES layout (id)
) STRICT;
CREATE UNIQUE INDEX layout_choice_one ON layout_choice (kind, coalesce(customer_id, 0), language);
