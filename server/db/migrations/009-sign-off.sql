-- Who is who ----------------------------------------------------------------------------------------------------------

CREATE TABLE department (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1))
) STRICT;
ALTER TABLE team ADD COLUMN active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1));

ALTER TABLE person ADD COLUMN department INTEGER REFERENCES department (id);
ALTER TABLE person ADD COLUMN manager INTEGER REFERENCES person (id); -- whom they answer to
-- When they work: weekdays as bits from Monday, minutes of the day, and whose public holidays they keep.
ALTER TABLE person ADD COLUMN works INTEGER NOT NULL DEFAULT 31 CHECK (works BETWEEN 1 AND 127);
ALTER TABLE person ADD COLUMN day_starts INTEGER NOT NULL DEFAULT 480 CHECK (day_starts BETWEEN 0 AND 1380);
ALTER TABLE person ADD COLUMN day_ends INTEGER NOT NULL DEFAULT 960 CHECK (day_ends BETWEEN 60 AND 1440);
ALTER TABLE person ADD COLUMN region TEXT NOT NULL DEFAULT '';

-- Days on which somebody is away, and who signs for them then.
CREATE TABLE absence (
  id INTEGER PRIMARY KEY,
  person INTEGER NOT NULL REFERENCES person (id),
  stand_in INTEGER REFERENCES person (id), -- null: nobody
  starts TEXT NOT NULL,
  ends TEXT NOT NULL,
  at TEXT NOT NULL,
  dropped TEXT,
  CHECK (starts <= ends),
  CHECK (stand_in IS NULL OR stand_in <> person)
) STRICT;
CREATE INDEX absence_of ON absence (person, ends) WHERE dropped IS NULL;

-- For whom a paper is; null: its writer's own department.
ALTER TABLE requisition ADD COLUMN department INTEGER REFERENCES department (id);
ALTER TABLE purchase_order ADD COLUMN department INTEGER REFERENCES department (id);

-- The rules -----------------------------------------------------------------------------------------------------------

-- Each version as it held, by the shape of core/signoff/rulebook.ts; only one that has not started can be taken back.
CREATE TABLE rulebook (
  version INTEGER PRIMARY KEY,
  starts TEXT NOT NULL,
  rules TEXT NOT NULL CHECK (json_valid(rules)),
  kept TEXT NOT NULL,
  person INTEGER REFERENCES person (id),
  taken_back TEXT
) STRICT;
CREATE TRIGGER rulebook_stays BEFORE UPDATE ON rulebook WHEN new.rules IS NOT old.rules OR new.starts IS NOT old.starts OR old.taken_back IS NOT NULL
  BEGIN SELECT raise(ABORT, 'rules that were kept are never changed'); END;
CREATE TRIGGER rulebook_kept BEFORE DELETE ON rulebook BEGIN SELECT raise(ABORT, 'rules that were kept are never deleted'); END;

-- The one that is being written.
CREATE TABLE rulebook_draft (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  version INTEGER NOT NULL DEFAULT 1,
  rules TEXT NOT NULL CHECK (json_valid(rules)),
  at TEXT NOT NULL,
  person INTEGER NOT NULL REFERENCES person (id)
) STRICT;

INSERT INTO rulebook (version, starts, rules, kept)
SELECT 1, '2000-01-01', json_object('allowance', json_object('percent', 200, 'amount', 10000), 'ladders', json_group_array(json(l.ladder) ORDER BY l.paper, l.position)),
       coalesce((SELECT min(at) FROM audit), '2000-01-01T00:00:00.000Z')
FROM (
  SELECT d.paper, d.position, json_object(
    'id', d.id, 'name', d.name,
    'papers', json(iif(d.paper = 'order', '["order","blanket","change"]', '["requisition"]')),
    'departments', json('[]'), 'categories', json('[]'), 'suppliers', json('[]'), 'stores', json('[]'), 'kinds', json('[]'),
    'needs', 'every rung', 'own', 0, 'overBudget', 'nothing',
    'rungs', (SELECT json_group_array(json_object(
        'upTo', r.up_to,
        'who', iif(r.team IS NULL, NULL, json_object('kind', 'team', 'team', r.team, 'all', json('false'))),
        'hours', max(r.hours, 1), 'climbsTo', NULL) ORDER BY r.position) FROM rung r WHERE r.ladder = d.id)) AS ladder
  FROM ladder d WHERE d.position = (SELECT min(x.position) FROM ladder x WHERE x.paper = d.paper)
) l
HAVING count(*) > 0;

-- What is signed ------------------------------------------------------------------------------------------------------

-- A paper each time that it was handed in: the rules it came under, what it came to, and what it said.
CREATE TABLE signing (
  id INTEGER PRIMARY KEY,
  paper TEXT NOT NULL CHECK (paper IN ('requisition', 'order', 'blanket', 'change')),
  requisition INTEGER REFERENCES requisition (id),
  purchase_order INTEGER REFERENCES purchase_order (id),
  round INTEGER NOT NULL CHECK (round > 0),
  amount INTEGER NOT NULL, -- home currency, net of tax, as handed in
  writer INTEGER NOT NULL REFERENCES person (id),
  own INTEGER NOT NULL DEFAULT 0 CHECK (own IN (0, 1)), -- the writer may sign this much of their own
  rulebook INTEGER REFERENCES rulebook (version),
  ladder TEXT NOT NULL DEFAULT '',
  sum TEXT CHECK (sum IS NULL OR json_valid(sum)),
  facts TEXT CHECK (facts IS NULL OR json_valid(facts)), -- what decided the way, for trying other rules on it
  lines TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(lines)), -- as handed in, to show what differs next time
  state TEXT NOT NULL CHECK (state IN ('In sign-off', 'Cleared', 'Draft')),
  started TEXT NOT NULL,
  ended TEXT,
  reason TEXT NOT NULL DEFAULT '', -- why it came back
  carried INTEGER NOT NULL DEFAULT 0 CHECK (carried IN (0, 1)), -- it had hardly grown since it was signed, so nobody signed again
  CHECK ((requisition IS NULL) <> (purchase_order IS NULL)),
  CHECK ((paper = 'requisition') = (requisition IS NOT NULL))
) STRICT;
CREATE UNIQUE INDEX signing_of_order ON signing (purchase_order, round) WHERE purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_of_requisition ON signing (requisition, round) WHERE requisition IS NOT NULL;
CREATE INDEX signing_by_start ON signing (started);
CREATE UNIQUE INDEX signing_open_order ON signing (purchase_order) WHERE state = 'In sign-off' AND purchase_order IS NOT NULL;
CREATE UNIQUE INDEX signing_open_requisition ON signing (requisition) WHERE state = 'In sign-off' AND requisition IS NOT NULL;

-- One place where a signature is needed.
CREATE TABLE seat (
  id INTEGER PRIMARY KEY,
  signing INTEGER NOT NULL REFERENCES signing (id),
  position INTEGER NOT NULL,
  rung INTEGER, -- counted from the bottom; null where a budget asks for it
  who TEXT NOT NULL CHECK (json_valid(who)),
  name TEXT NOT NULL,
  hours INTEGER NOT NULL,
  climbs_to TEXT CHECK (climbs_to IS NULL OR json_valid(climbs_to)),
  each INTEGER NOT NULL DEFAULT 0 CHECK (each IN (0, 1)), -- all of them sign, not any one
  state TEXT NOT NULL CHECK (state IN ('later', 'waiting', 'signed', 'sent back', 'not reached')),
  asked TEXT,
  half TEXT, -- when half of the working time to answer is gone
  due TEXT,
  reminded TEXT,
  climbed TEXT,
  unattended TEXT, -- when the administrators were told that nobody is there
  UNIQUE (signing, position)
) STRICT;
CREATE INDEX seat_waiting ON seat (signing) WHERE state = 'waiting';

-- Who is asked at a seat: as the rules say, as handed over, and whom it climbed to.
CREATE TABLE seat_person (
  id INTEGER PRIMARY KEY,
  seat INTEGER NOT NULL REFERENCES seat (id),
  person INTEGER NOT NULL REFERENCES person (id),
  how TEXT NOT NULL DEFAULT 'asked' CHECK (how IN ('asked', 'handed over', 'climbed')),
  since TEXT NOT NULL,
  handed_on TEXT, -- when they handed it to somebody else
  mailed TEXT -- when they were told by e-mail
) STRICT;
CREATE UNIQUE INDEX seat_person_now ON seat_person (seat, person) WHERE handed_on IS NULL;
CREATE INDEX seat_person_of ON seat_person (person, seat) WHERE handed_on IS NULL;

CREATE TABLE signature_new (
  id INTEGER PRIMARY KEY,
  seat INTEGER NOT NULL REFERENCES seat (id),
  what TEXT NOT NULL CHECK (what IN ('signed', 'sent back')),
  person INTEGER NOT NULL REFERENCES person (id),
  for_whom INTEGER REFERENCES person (id), -- who was away
  at TEXT NOT NULL
) STRICT;

CREATE TABLE question (
  id INTEGER PRIMARY KEY,
  signing INTEGER NOT NULL REFERENCES signing (id),
  person INTEGER NOT NULL REFERENCES person (id),
  text TEXT NOT NULL,
  at TEXT NOT NULL,
  answer TEXT,
  answered TEXT
) STRICT;
CREATE INDEX question_of ON question (signing);

-- Private links to what waits, by their hash: each works once, for one person, until it ends.
CREATE TABLE sign_link (
  link TEXT PRIMARY KEY,
  seat INTEGER NOT NULL REFERENCES seat (id),
  person INTEGER NOT NULL REFERENCES person (id),
  ends TEXT NOT NULL,
  used TEXT
) STRICT, WITHOUT ROWID;

INSERT INTO signing (paper, requisition, purchase_order, round, amount, writer, rulebook, ladder, state, started, ended, reason)
SELECT g.paper, g.requisition, g.purchase_order, g.round, max(g.amount), coalesce(o.writer, r.asker),
       (SELECT max(version) FROM rulebook), iif(g.paper = 'order', 'Orders', 'Requisitions'),
       CASE WHEN sum(g.state = 'waiting') > 0 THEN 'In sign-off' WHEN sum(g.state <> 'signed') = 0 THEN 'Cleared' ELSE 'Draft' END,
       coalesce(min(g.asked), min(g.at), o.submitted, r.submitted, '2000-01-01T00:00:00.000Z'),
       iif(sum(g.state = 'waiting') > 0, NULL, coalesce(max(g.at), max(g.asked))), coalesce(max(g.reason), '')
FROM signature g LEFT JOIN purchase_order o ON o.id = g.purchase_order LEFT JOIN requisition r ON r.id = g.requisition
GROUP BY g.paper, g.requisition, g.purchase_order, g.round;

INSERT INTO seat (id, signing, position, rung, who, name, hours, state, asked, half, due)
SELECT g.id, s.id, g.position, g.position, json_object('kind', 'team', 'team', g.team, 'all', json('false')), t.name, max(g.hours, 1), g.state, g.asked,
       -- A working day of eight hours is a day: what waits now may have till then.
       strftime('%Y-%m-%dT%H:%M:%fZ', g.asked, '+' || (max(g.hours, 1) * 3 / 2) || ' hours'),
       strftime('%Y-%m-%dT%H:%M:%fZ', g.asked, '+' || (max(g.hours, 1) * 3) || ' hours')
FROM signature g JOIN team t ON t.id = g.team
JOIN signing s ON s.round = g.round AND s.requisition IS g.requisition AND s.purchase_order IS g.purchase_order;

INSERT INTO seat_person (seat, person, since, mailed)
SELECT g.id, m.person, coalesce(g.asked, s.started), coalesce(g.asked, s.started) FROM signature g JOIN seat t ON t.id = g.id JOIN signing s ON s.id = t.signing
JOIN team_member m ON m.team = g.team WHERE m.person <> s.writer;

INSERT INTO signature_new (seat, what, person, at)
SELECT g.id, g.state, g.person, g.at FROM signature g WHERE g.person IS NOT NULL AND g.at IS NOT NULL AND g.state IN ('signed', 'sent back');

-- What needed nobody was handed in, too: growth is measured against it, and other rules can be tried on it.
INSERT INTO signing (paper, purchase_order, round, amount, writer, rulebook, ladder, state, started, ended)
SELECT iif(o.kind = 'blanket', 'blanket', 'order'), o.id, 1, o.home_net, o.writer, (SELECT max(version) FROM rulebook), 'Orders', 'Cleared', o.submitted, coalesce(o.cleared, o.submitted)
FROM purchase_order o WHERE o.submitted IS NOT NULL AND o.state NOT IN ('Draft', 'In sign-off') AND o.kind <> 'standing'
  AND NOT EXISTS (SELECT 1 FROM signing g WHERE g.purchase_order = o.id);
INSERT INTO signing (paper, requisition, round, amount, writer, rulebook, ladder, state, started, ended)
SELECT 'requisition', r.id, 1,
       coalesce((SELECT sum(coalesce(q.estimate, 0)) FROM requisition_line q WHERE q.requisition = r.id), 0),
       r.asker, (SELECT max(version) FROM rulebook), 'Requisitions', 'Cleared', r.submitted, r.submitted
FROM requisition r WHERE r.submitted IS NOT NULL AND r.state NOT IN ('Draft', 'In sign-off')
  AND NOT EXISTS (SELECT 1 FROM signing g WHERE g.requisition = r.id);

UPDATE signing SET facts = (
  SELECT json_object('paper', signing.paper, 'amount', signing.amount, 'department', NULL, 'supplier', o.supplier, 'store', o.store, 'kind', iif(o.kind IN ('one-off', 'call-off', 'direct'), o.kind, NULL), 'overBudget', json('false'),
    'categories', (SELECT json_group_array(DISTINCT i.category) FROM order_line l JOIN item i ON i.id = l.item WHERE l.purchase_order = o.id AND i.category <> ''))
  FROM purchase_order o WHERE o.id = signing.purchase_order) WHERE purchase_order IS NOT NULL;
UPDATE signing SET facts = (
  SELECT json_object('paper', 'requisition', 'amount', signing.amount, 'department', NULL, 'supplier', NULL, 'store', r.store, 'kind', NULL, 'overBudget', json('false'),
    'categories', (SELECT json_group_array(DISTINCT i.category) FROM requisition_line q JOIN item i ON i.id = q.item WHERE q.requisition = r.id AND i.category <> ''))
  FROM requisition r WHERE r.id = signing.requisition) WHERE requisition IS NOT NULL;

DROP TABLE signature;
DROP TABLE rung;
DROP TABLE ladder;
ALTER TABLE signature_new RENAME TO signature;
CREATE INDEX signature_of ON signature (seat);
CREATE INDEX signature_by_time ON signature (at);
CREATE TRIGGER signature_stays BEFORE UPDATE ON signature BEGIN SELECT raise(ABORT, 'signatures are never changed'); END;
CREATE TRIGGER signature_kept BEFORE DELETE ON signature BEGIN SELECT raise(ABORT, 'signatures are never deleted'); END;
