-- What every line comes to at home is kept, so that the year can be added up without working prices out again.
ALTER TABLE order_line ADD COLUMN home_net INTEGER; -- its part of the order's home_net, to the cent; null: not worked out yet
ALTER TABLE invoice_line ADD COLUMN home_net INTEGER; -- at the invoice's rate; null: not worked out yet
CREATE INDEX order_line_without_home ON order_line (purchase_order) WHERE home_net IS NULL;
CREATE INDEX invoice_line_without_home ON invoice_line (invoice) WHERE home_net IS NULL;
CREATE INDEX invoice_by_day ON invoice (day) WHERE state NOT IN ('Held', 'Sent back', 'Taken off');
CREATE INDEX purchase_order_by_placed ON purchase_order (placed) WHERE placed IS NOT NULL;
CREATE INDEX receipt_on_day ON receipt (day);
