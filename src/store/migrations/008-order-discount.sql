-- What is taken off a whole order in money of its currency; empty for nothing.
ALTER TABLE sales_order ADD COLUMN discount_amount TEXT NOT NULL DEFAULT '';
