-- Which formats there are is the program's to say (core/companions.ts), not the table's.
CREATE TABLE document_file_anew (
	document_id INTEGER NOT NULL REFERENCES document (id),
	format TEXT NOT NULL,
	file_name TEXT NOT NULL,
	file_sha256 TEXT NOT NULL,
	file_size INTEGER NOT NULL,
	made_at TEXT NOT NULL,
	PRIMARY KEY (document_id, format, file_sha256)
) STRICT, WITHOUT ROWID;
INSERT INTO document_file_anew (document_id, format, file_name, file_sha256, file_size, made_at)
	SELECT document_id, format, file_name, file_sha256, file_size, made_at FROM document_file;
DROP TABLE document_file;
ALTER TABLE document_file_anew RENAME TO document_file;
