-- A scan at the dock finds what is to come by the supplier's own code, over all orders.
CREATE INDEX order_line_their_open ON order_line (their_code COLLATE NOCASE) WHERE open = 1 AND their_code <> '';
