import { type Db, sql } from "../../db/open";

/** What must hold of suppliers' goods in any company's file at any time (domain-goods §17); each sentence names a row. */
export function brokenConsigned(db: Db): string[] {
  const found: string[] = [];
  const none = (says: string, query: string) => {
    for (const row of sql<{ what: string }>(db, query).all()) found.push(`${says}: ${row.what}`);
  };
  none(
    "goods of a supplier have a value in our books",
    "SELECT 'movement ' || id AS what FROM movement WHERE owner IS NOT NULL AND value <> 0",
  );
  none(
    "what is left of a delivery is not what came less what was taken",
    `SELECT 'layer ' || y.id AS what FROM consigned_layer y
     WHERE y.rest <> y.quantity - coalesce((SELECT sum(t.quantity) FROM consigned_take t WHERE t.layer = y.id), 0)`,
  );
  none(
    "a supplier’s goods by age are not those that lie in bins",
    `SELECT item || '/' || store || '/' || owner || '/' || lot AS what FROM (
       SELECT item, store, owner, coalesce(lot, 0) AS lot, rest AS quantity FROM consigned_layer
       UNION ALL SELECT item, store, owner, lot, -quantity FROM stock_balance WHERE owner <> 0)
     GROUP BY item, store, owner, lot HAVING sum(quantity) <> 0`,
  );
  none(
    "a use does not have exactly one order line, receipt and issue",
    `SELECT 'use ' || u.id AS what FROM consigned_use u JOIN order_line l ON l.id = u.order_line
     LEFT JOIN (SELECT order_line, sum(quantity) AS quantity, sum(home_value) AS value, count(DISTINCT receipt) AS receipts FROM receipt_line GROUP BY order_line) x ON x.order_line = u.order_line
     WHERE u.reverses IS NULL AND (l.quantity <> u.quantity OR x.quantity IS NOT u.quantity OR x.value IS NOT u.home_net OR x.receipts IS NOT 1)
     UNION ALL SELECT 'use ' || u.id FROM consigned_use u WHERE u.reverses IS NULL AND u.what IN ('used', 'lost')
       AND NOT EXISTS (SELECT 1 FROM movement m WHERE m.paper = u.paper AND m.kind IN ('issue', 'write-off') AND m.quantity < 0)
     UNION ALL SELECT 'order line ' || order_line FROM consigned_use WHERE reverses IS NULL GROUP BY order_line HAVING count(*) > 1`,
  );
  none(
    "a use is not what it took of their goods",
    `SELECT 'use ' || u.id AS what FROM consigned_use u
     WHERE u.quantity <> coalesce((SELECT sum(t.quantity) FROM consigned_take t WHERE t.used = u.id), 0)`,
  );
  none(
    "more of a use was taken back than was used, or its receipt was not undone with it",
    `SELECT 'use ' || u.id AS what FROM consigned_use u
     LEFT JOIN (SELECT reverses, sum(quantity) AS quantity, sum(net) AS net, sum(home_net) AS home FROM consigned_use WHERE reverses IS NOT NULL GROUP BY reverses) b ON b.reverses = u.id
     LEFT JOIN (SELECT order_line, sum(undone) AS undone, sum(home_undone) AS home FROM receipt_line_now GROUP BY order_line) x ON x.order_line = u.order_line
     WHERE u.reverses IS NULL AND (u.quantity + coalesce(b.quantity, 0) < 0 OR -coalesce(b.quantity, 0) <> coalesce(x.undone, 0) OR -coalesce(b.home, 0) <> coalesce(x.home, 0)
       OR (u.quantity + coalesce(b.quantity, 0) = 0 AND u.net + b.net <> 0))`,
  );
  none(
    "a statement is not the sum of its uses",
    `SELECT s.number AS what FROM use_statement s LEFT JOIN (SELECT statement, sum(net) AS net, sum(home_net) AS home FROM consigned_use WHERE statement IS NOT NULL GROUP BY statement) u ON u.statement = s.id
     WHERE s.state <> 'Withdrawn' AND (s.net <> coalesce(u.net, 0) OR s.home_net <> coalesce(u.home, 0) OR s.total <> s.net + s.tax)
     UNION ALL SELECT s.number FROM use_statement s WHERE s.state = 'Withdrawn' AND EXISTS (SELECT 1 FROM consigned_use u WHERE u.statement = s.id)`,
  );
  none(
    "what is owed is not what its statement says",
    `SELECT s.number AS what FROM use_statement s LEFT JOIN payable p ON p.statement = s.id
     WHERE (s.state = 'Agreed') <> (p.id IS NOT NULL) OR (p.id IS NOT NULL AND (p.net <> s.net OR p.tax <> s.tax OR p.total <> s.total))`,
  );
  none(
    "a refill has more, or less, open than was asked less what came",
    `SELECT f.number AS what FROM refill_line l JOIN refill f ON f.id = l.refill WHERE l.open <> (l.came < l.quantity AND f.ended IS NULL)`,
  );
  none(
    "an agreement runs without a version that binds, or waits for nobody",
    `SELECT 'agreement ' || a.id AS what FROM agreement a WHERE a.revision > 0 AND NOT EXISTS (SELECT 1 FROM agreement_revision r WHERE r.agreement = a.id AND r.revision = a.revision)
     UNION ALL SELECT 'agreement ' || a.id FROM agreement a WHERE (a.state = 'In sign-off') <> EXISTS (SELECT 1 FROM signing g WHERE g.agreement = a.id AND g.state = 'In sign-off')`,
  );
  return found;
}
