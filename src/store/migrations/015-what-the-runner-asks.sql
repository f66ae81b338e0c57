-- What the runner asks again and again is found by an index, whatever the books have grown to (tests/plans.test.ts).
-- The latest day of each kind of document: part of the checks of every draft.
CREATE INDEX document_latest ON document (kind, day) WHERE number IS NOT NULL AND void_at IS NULL;
-- Records that were put away: whether any was, since a sheet was read.
CREATE INDEX paper_record_away ON paper_record (away_at) WHERE away_at IS NOT NULL;
