-- Where a supplier answers what they have and at what price for us (docs/exchange.md). The token goes out with each question and is shown nowhere.
CREATE TABLE stock_service (
  supplier INTEGER PRIMARY KEY REFERENCES supplier (id),
  address TEXT NOT NULL,
  token TEXT NOT NULL DEFAULT ''
) STRICT;

-- What a supplier said when they were asked, line by line: the stock in their depots and their price for us.
CREATE TABLE said_stock (
  id INTEGER PRIMARY KEY,
  sourcing INTEGER NOT NULL REFERENCES sourcing (id),
  quantity INTEGER NOT NULL CHECK (quantity > 0), -- asked for, in the unit
  unit TEXT NOT NULL REFERENCES unit (code), -- as the record was then: a price holds while it stays so
  factor INTEGER NOT NULL CHECK (factor > 0),
  currency TEXT NOT NULL CHECK (length(currency) = 3),
  at TEXT NOT NULL,
  day TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id),
  price INTEGER CHECK (price >= 0), -- for one unit as they said it, millionths: what we would pay
  standing INTEGER NOT NULL, -- the discount on everything they sell, which our own prices are before
  listed INTEGER CHECK (listed >= 0), -- the price before that discount, from which it comes to theirs
  valid_to TEXT NOT NULL, -- the last day the price holds: where they name none, the day on which it was said
  said TEXT NOT NULL CHECK (json_valid(said)) -- [{"depot": "Bremen", "onHand": 400000, "arrives": "2026-12-02", "more": [{"quantity": 100000, "arrives": "2026-12-09"}]}]
) STRICT;
CREATE INDEX said_stock_of ON said_stock (sourcing, id);

-- A price that was said and taken over: it holds as an accepted quote does, from the quantity that was asked for.
CREATE TABLE said_price (
  said INTEGER PRIMARY KEY REFERENCES said_stock (id),
  sourcing INTEGER NOT NULL REFERENCES sourcing (id),
  accepted TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id)
) STRICT;
CREATE INDEX said_price_of ON said_price (sourcing);
CREATE TRIGGER touch_said_price AFTER INSERT ON said_price BEGIN
  INSERT INTO plan_touch SELECT item, 0, 0 FROM sourcing WHERE id = new.sourcing ON CONFLICT DO UPDATE SET n = 0;
END;
CREATE TRIGGER said_stays BEFORE UPDATE ON said_stock BEGIN SELECT raise(ABORT, 'what was said is never changed'); END;
CREATE TRIGGER said_price_stays BEFORE UPDATE ON said_price BEGIN SELECT raise(ABORT, 'what was taken over is never changed'); END;
