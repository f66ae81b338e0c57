-- Each step of a layout in the making has a number that no other step of that layout ever has: a page knows by it what it was opened on.
ALTER TABLE layout ADD COLUMN last_step INTEGER NOT NULL DEFAULT 0;
UPDATE layout SET last_step = coalesce((SELECT max(step) FROM layout_step s WHERE s.layout_id = layout.id), 0);
