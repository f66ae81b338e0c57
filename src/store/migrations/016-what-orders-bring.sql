-- An order's net is reckoned from its lines and what it brings; it is kept nowhere beside them.
ALTER TABLE sales_order DROP COLUMN net;

-- What of a draft a change touched, as data. Of changes from before, their words said it.
ALTER TABLE document_change ADD COLUMN touches TEXT NOT NULL DEFAULT '';
UPDATE document_change SET touches =
	ltrim(iif(replace(words, 'revised: ', '') GLOB 'with *' OR words GLOB '*; with *' OR replace(words, 'revised: ', '') GLOB 'without *' OR words GLOB '*; without *', 'terms', '')
		|| iif(replace(words, 'revised: ', '') GLOB 'email *' OR words GLOB '*; email *', ',email', ''), ',')
WHERE kind = 'content';

-- Set where the draft followed what the firm's rules became; it is no act of a person, and is not taken back by one.
ALTER TABLE document_change ADD COLUMN followed INTEGER NOT NULL DEFAULT 0 CHECK (followed IN (0, 1));

-- What a run numbered is told by what its event has after it. Drafts of open runs are looked at again once, since events of before have it not.
UPDATE run SET checked_to = 0 WHERE state = 'open';
-- What was typed in a form is a file of its own; of those from before, their mark said it.
ALTER TABLE source_file ADD COLUMN typed INTEGER NOT NULL DEFAULT 0 CHECK (typed IN (0, 1));
UPDATE source_file SET typed = 1 WHERE mark GLOB 'order form *';

-- Whether all that could be taken of a file is in the books.
UPDATE source_file SET review = json_set(review, '$.taken', json('true')) WHERE review IS NOT NULL AND review ->> 'digest' GLOB 'accepted *';

-- A hash of what an event says and of the seal before it (store/events.ts); empty on those from before.
ALTER TABLE event ADD COLUMN seal TEXT NOT NULL DEFAULT '';

-- Freight of drafts has no label of its own: papers say it in their language.
UPDATE document_content SET content = json_set(content, '$.charges', json((
	SELECT json_group_array(json(iif(value ->> 'label' GLOB 'Freight*', json_set(value, '$.label', ''), value)))
	FROM json_each(content, '$.charges'))))
WHERE frozen = 0 AND json_array_length(content, '$.charges') > 0;
UPDATE document_change SET content_before = json_set(content_before, '$.charges', json((
	SELECT json_group_array(json(iif(value ->> 'label' GLOB 'Freight*', json_set(value, '$.label', ''), value)))
	FROM json_each(content_before, '$.charges'))))
WHERE json_array_length(content_before, '$.charges') > 0
	AND EXISTS (SELECT 1 FROM document d WHERE d.id = document_change.document_id AND d.number IS NULL);
UPDATE sales_order SET shared = json_set(shared, '$.charges', json((
	SELECT json_group_array(json(iif(value ->> 'label' GLOB 'Freight*', json_set(value, '$.label', ''), value)))
	FROM json_each(shared, '$.charges'))))
WHERE shared IS NOT NULL AND json_array_length(shared, '$.charges') > 0;
