-- A form as the firm has it, brought in to become a layout: its bytes as they came, and what was read of them. It is kept with the layout;
-- a newer one of the same form stands after it.
CREATE TABLE form (
	id INTEGER PRIMARY KEY,
	kind TEXT NOT NULL,
	-- What the layout is to be called.
	name TEXT NOT NULL,
	-- None until a layout is made of it for the first time.
	layout_id INTEGER REFERENCES layout (id),
	-- The form that it is a newer one of.
	after_id INTEGER REFERENCES form (id),
	file_name TEXT NOT NULL,
	sha256 TEXT NOT NULL,
	bytes BLOB NOT NULL,
	brought_at TEXT NOT NULL,
	brought_by TEXT NOT NULL,
	-- The form as JSON once it is read, or why it cannot be.
	body TEXT,
	refused TEXT NOT NULL DEFAULT '',
	-- What is new, gone or elsewhere beside the form before it, as JSON.
	changes TEXT NOT NULL DEFAULT '[]',
	-- The hash of the layout that was last made of it, to tell whether the layout was changed on the paper since.
	made_sha256 TEXT,
	away_at TEXT,
	away_by TEXT
) STRICT;
CREATE INDEX form_layout ON form (layout_id);
CREATE TRIGGER form_stays BEFORE DELETE ON form BEGIN SELECT RAISE(ABORT, 'a form is never removed'); END;
CREATE TRIGGER form_keeps BEFORE UPDATE OF bytes, sha256, file_name ON form BEGIN SELECT RAISE(ABORT, 'a form is kept as it came'); END;

-- What was said of a form: of a mark, of a row of a table, of a name that stands for several things, of words that were pointed at.
CREATE TABLE form_answer (
	form_id INTEGER NOT NULL REFERENCES form (id),
	about TEXT NOT NULL CHECK (about IN ('marks', 'rows', 'apart', 'points')),
	key TEXT NOT NULL,
	answer TEXT NOT NULL,
	at TEXT NOT NULL,
	clerk TEXT NOT NULL,
	PRIMARY KEY (form_id, about, key)
) STRICT, WITHOUT ROWID;
