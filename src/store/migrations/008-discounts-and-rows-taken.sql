-- What is taken off a whole order in money of its currency; empty for nothing.
ALTER TABLE sales_order ADD COLUMN discount_amount TEXT NOT NULL DEFAULT '';
-- What each row of a file said when it was taken into the books, so that it is not taken again when another row is mended. Orders keep their
-- rows themselves.
CREATE TABLE row_taken (
	file_id INTEGER NOT NULL REFERENCES source_file (id),
	row INTEGER NOT NULL,
	said TEXT NOT NULL,
	PRIMARY KEY (file_id, row)
) STRICT, WITHOUT ROWID;
