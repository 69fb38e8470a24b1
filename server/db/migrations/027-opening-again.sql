-- What was closed together with its order, so that opening it again brings that back: [{"schedule": 4, "quantity": 200000}].
ALTER TABLE purchase_order ADD COLUMN closed_rest TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(closed_rest));
