-- Labels in layouts of the house's own.
CREATE TABLE label_layout (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  kind TEXT NOT NULL, -- core/stock/label.ts
  layout TEXT NOT NULL, -- JSON
  version INTEGER NOT NULL DEFAULT 1
) STRICT;
INSERT INTO label_layout (name, kind, layout) VALUES
  ('Item, 24 on A4', 'item', '{"width":700,"height":370,"code":"bar code","fields":[{"field":"name","size":9,"bold":true},{"field":"code","size":8,"bold":false},{"field":"bin","size":8,"bold":false}],"sheet":{"width":2100,"height":2970,"left":0,"top":0,"columns":3,"rows":8,"gapX":0,"gapY":0}}'),
  ('Goods, roll of 89 by 36', 'lot', '{"width":890,"height":360,"code":"GS1 matrix","fields":[{"field":"name","size":10,"bold":true},{"field":"code","size":8,"bold":false},{"field":"lot","size":9,"bold":true},{"field":"expires","size":8,"bold":false},{"field":"quantity","size":8,"bold":false},{"field":"order","size":7,"bold":false}],"sheet":null}'),
  ('Bin, roll of 89 by 36', 'bin', '{"width":890,"height":360,"code":"bar code","fields":[{"field":"bin","size":30,"bold":true},{"field":"store","size":8,"bold":false}],"sheet":null}'),
  ('Load, roll of 102 by 59', 'load', '{"width":1020,"height":590,"code":"bar code","fields":[{"field":"supplier","size":14,"bold":true},{"field":"receipt","size":20,"bold":true},{"field":"order","size":10,"bold":false},{"field":"day","size":10,"bold":false},{"field":"store","size":10,"bold":false}],"sheet":null}');
