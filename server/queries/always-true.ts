import type { OrderId } from "../../core/ids";
import { leftOf } from "../../core/orders/blanket";
import { orderStatus, stageAfter } from "../../core/orders/status";
import { brokenLink } from "../db/audit";
import { type Db, sql } from "../db/open";
import { askedCommitments, billedCommitments, budgetRules, orderCommitments } from "./budgets/commitments";
import { brokenConsigned } from "./consigned/always-true";
import { readBlanketLine, readCalls } from "./orders/calls";
import { readFacts } from "./orders/facts";
import { orderTotals, readOrderLines } from "./orders/order";
import { brokenSettling } from "./settling/always-true";

/** Commitments that are kept other than the papers say. */
function brokenCommitments(db: Db): string[] {
  const rules = budgetRules(db);
  const kept = sql<{ what: string; minor: number }>(
    db,
    `SELECT coalesce('line ' || order_line, 'requisition line ' || requisition_line, 'invoice line ' || invoice_line) || ', ' || budget || ', ' || figure AS what, sum(minor) AS minor
     FROM commitment GROUP BY 1`,
  ).all();
  const now = new Map<string, number>();
  for (const [of, lines] of [
    ["line", orderCommitments(db, rules, null)],
    ["requisition line", askedCommitments(db, rules, null)],
    ["invoice line", billedCommitments(db, rules, null)],
  ] as const)
    for (const { line, commitments } of lines)
      for (const c of commitments) {
        const what = `${of} ${line}, ${c.budget}, ${c.figure}`;
        now.set(what, (now.get(what) ?? 0) + c.minor);
      }
  for (const { what, minor } of kept) now.set(what, (now.get(what) ?? 0) - minor);
  const wrong = [...now]
    .filter(([, off]) => off !== 0)
    .map(([what]) => `a budget does not take what its paper says: ${what}`);
  const totals = sql<{ what: string }>(
    db,
    `SELECT t.budget || ', ' || t.figure AS what FROM budget_total t
     WHERE t.minor <> coalesce((SELECT sum(c.minor) FROM commitment c WHERE c.budget = t.budget AND c.figure = t.figure), 0)`,
  ).all();
  return [...wrong, ...totals.map((t) => `a budget’s figure is not the sum of its papers: ${t.what}`)];
}

/** What must hold in any company's file at any time. An empty list is the good answer; else each sentence names a row. */
export function brokenTruths(db: Db): string[] {
  const found: string[] = [];
  const none = (says: string, query: string) => {
    for (const row of sql<{ what: string }>(db, query).all()) found.push(`${says}: ${row.what}`);
  };
  none(
    "stock or its value is not the sum of its movements",
    `SELECT p.item || '/' || p.store AS what FROM item_store p
     LEFT JOIN (SELECT item, store, sum(quantity) AS moved, sum(value) AS value FROM movement WHERE owner IS NULL GROUP BY item, store) m ON m.item = p.item AND m.store = p.store
     WHERE p.on_hand <> coalesce(m.moved, 0) OR p.value <> coalesce(m.value, 0)`,
  );
  none(
    "what lies in a bin is not the sum of its movements",
    `SELECT item || '/' || store || '/' || bin || '/' || lot AS what FROM (
       SELECT item, store, bin, lot, owner, quantity FROM stock_balance
       UNION ALL SELECT item, store, bin, coalesce(lot, 0), coalesce(owner, 0), -sum(quantity) FROM movement GROUP BY 1, 2, 3, 4, 5)
     GROUP BY item, store, bin, lot, owner HAVING sum(quantity) <> 0`,
  );
  none(
    "less than nothing lies in a bin",
    "SELECT item || '/' || store || '/' || bin AS what FROM stock_balance WHERE quantity < 0",
  );
  none(
    "goods lie in a bin that the store does not have",
    `SELECT DISTINCT b.store || '/' || b.bin AS what FROM stock_balance b LEFT JOIN store_bin s ON s.store = b.store AND s.code = b.bin
     WHERE b.quantity <> 0 AND b.bin <> '' AND s.code IS NOT b.bin`,
  );
  none(
    "moving from bin to bin has changed what is on hand, or its value",
    `SELECT p.number AS what FROM stock_paper p JOIN movement m ON m.paper = p.id WHERE p.kind IN ('stow', 'move')
     GROUP BY p.id, m.item, m.lot HAVING sum(m.quantity) <> 0 OR sum(m.value) <> 0`,
  );
  none(
    "value lies where there are no goods",
    "SELECT item || '/' || store AS what FROM item_store WHERE (on_hand = 0 AND value <> 0) OR value < 0",
  );
  none(
    "an entry of the journal does not balance",
    "SELECT 'entry ' || entry AS what FROM posting GROUP BY entry HAVING sum(minor) <> 0",
  );
  none(
    "the journal says another value of the stock than the stock itself",
    `SELECT p.minor || ' and ' || s.value AS what FROM (SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE role = 'stock') p
     JOIN (SELECT coalesce(sum(value), 0) AS value FROM item_store) s WHERE p.minor <> s.value`,
  );
  none(
    "received, not invoiced, is not what the receipts come to",
    // Less what suppliers agreed to on use statements, and what invoices met. What came before the house kept a journal has no entry.
    `SELECT 'line ' || r.order_line AS what FROM (SELECT x.order_line, sum(x.home_value - x.home_undone)
         - coalesce((SELECT sum(u.home_net) FROM consigned_use u JOIN use_statement s ON s.id = u.statement WHERE u.order_line = x.order_line AND s.state = 'Agreed'), 0)
         - coalesce((SELECT sum(l.met) FROM invoice_line l JOIN invoice v ON v.id = l.invoice WHERE l.order_line = x.order_line AND v.state NOT IN ('Held', 'Sent back', 'Taken off')), 0) AS value
       FROM receipt_line_now x WHERE EXISTS (SELECT 1 FROM posting_entry e WHERE e.receipt = x.receipt) GROUP BY x.order_line) r
     WHERE r.value <> coalesce((SELECT -sum(p.minor) FROM posting p WHERE p.order_line = r.order_line AND p.role = 'received not invoiced'), 0)`,
  );
  none(
    "more lies in lots than is on hand",
    `SELECT l.item || '/' || l.store AS what FROM stock_lot l JOIN item_store p ON p.item = l.item AND p.store = l.store
     WHERE l.owner = 0 GROUP BY l.item, l.store HAVING sum(l.on_hand) > p.on_hand`,
  );
  none(
    "a moved transfer has not left and arrived alike",
    `SELECT t.number AS what FROM transfer t JOIN transfer_line l ON l.transfer = t.id
     LEFT JOIN (SELECT transfer_line, store, sum(quantity) AS moved FROM movement WHERE transfer_line IS NOT NULL GROUP BY transfer_line, store) o ON o.transfer_line = l.id AND o.store = t.from_store
     LEFT JOIN (SELECT transfer_line, store, sum(quantity) AS moved FROM movement WHERE transfer_line IS NOT NULL GROUP BY transfer_line, store) i ON i.transfer_line = l.id AND i.store = t.to_store
     WHERE coalesce(-o.moved, 0) <> iif(t.state = 'Moved', l.quantity, 0) OR coalesce(i.moved, 0) <> iif(t.state = 'Moved', l.quantity, 0)`,
  );
  none(
    "more was ordered for a job than is tied to it",
    `SELECT 'demand ' || d.id AS what FROM job_demand d WHERE d.tied < (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id)`,
  );
  none(
    "orders cover more of a need than was asked",
    `SELECT 'requisition line ' || q.id AS what FROM requisition_line q WHERE coalesce(q.decided, q.quantity, 10000) < (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.requisition_line = q.id)
     UNION ALL SELECT 'noted need ' || n.id FROM noted_need n WHERE n.quantity < (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id)
     UNION ALL SELECT 'tie of line ' || t.order_line FROM need_tie t WHERE t.quantity > t.wanted OR t.quantity < 0`,
  );
  none(
    "a bench has lost its need’s choice",
    "SELECT p.need AS what FROM bench_part p LEFT JOIN bench_row r ON r.need = p.need WHERE r.need IS NULL",
  );
  none(
    "goods moved without a place",
    "SELECT DISTINCT m.item || '/' || m.store AS what FROM movement m LEFT JOIN item_store p ON p.item = m.item AND p.store = m.store WHERE p.item IS NULL",
  );
  none(
    "a paper is cleared without every signature it needs",
    `SELECT 'signing ' || g.id AS what FROM signing g JOIN seat t ON t.signing = g.id WHERE g.state = 'Cleared' AND t.state <> 'signed'
     UNION ALL SELECT 'seat ' || t.id FROM seat t WHERE t.state = 'signed' AND NOT EXISTS (SELECT 1 FROM signature g WHERE g.seat = t.id AND g.what = 'signed')
     UNION ALL SELECT 'order ' || o.id FROM purchase_order o WHERE o.stage = 'cleared' AND (SELECT g.state FROM signing g WHERE g.purchase_order = o.id ORDER BY g.round DESC LIMIT 1) <> 'Cleared'`,
  );
  none(
    "a paper waits for signatures that nobody is asked for",
    `SELECT 'signing ' || g.id AS what FROM signing g WHERE g.state = 'In sign-off' AND (SELECT count(*) FROM seat t WHERE t.signing = g.id AND t.state = 'waiting') <> 1
     UNION ALL SELECT 'order ' || o.id FROM purchase_order o WHERE (o.stage = 'in sign-off' OR EXISTS (SELECT 1 FROM order_change c WHERE c.purchase_order = o.id AND c.state = 'in sign-off'))
         <> EXISTS (SELECT 1 FROM signing g WHERE g.purchase_order = o.id AND g.state = 'In sign-off')
     UNION ALL SELECT 'requisition ' || r.id FROM requisition r WHERE (r.state = 'In sign-off') <> EXISTS (SELECT 1 FROM signing g WHERE g.requisition = r.id AND g.state = 'In sign-off')`,
  );
  none(
    "somebody signed their own paper beyond what they may",
    "SELECT 'seat ' || t.id AS what FROM signature x JOIN seat t ON t.id = x.seat JOIN signing g ON g.id = t.signing WHERE x.what = 'signed' AND g.own = 0 AND (x.person = g.writer OR x.person IN (SELECT value FROM json_each(g.hands)))",
  );
  none(
    "received is not the sum of the receipts",
    // What meets the order and is set aside counts until it is decided; kept, it has a receipt line.
    `SELECT 'line ' || l.id AS what FROM order_line l LEFT JOIN (
       SELECT order_line, sum(quantity) AS counted FROM (
         SELECT order_line, quantity - undone AS quantity FROM receipt_line_now UNION ALL SELECT order_line, undecided FROM set_aside WHERE ordered = 1)
       GROUP BY order_line) r ON r.order_line = l.id
     WHERE l.received <> coalesce(r.counted, 0)`,
  );
  none(
    "a line keeps other figures than its schedule comes to",
    `SELECT 'line ' || l.id AS what FROM order_line l LEFT JOIN (
       SELECT order_line, sum(quantity) AS quantity, sum(received) AS received, sum(closed_short) AS closed,
              coalesce(min(iif(received + closed_short < quantity, coalesce(promised, requested), NULL)), max(coalesce(promised, requested))) AS due
       FROM order_schedule GROUP BY order_line) s ON s.order_line = l.id
     WHERE l.quantity IS NOT s.quantity OR l.received IS NOT s.received OR l.closed_short IS NOT s.closed OR l.due IS NOT s.due`,
  );
  for (const { id } of sql<{ id: number }>(
    db,
    "SELECT l.id FROM order_line l JOIN purchase_order b ON b.id = l.purchase_order WHERE b.kind = 'blanket'",
  ).all()) {
    const line = readBlanketLine(db, id)!;
    const { called } = leftOf(line, readCalls(db, id));
    const { drawn } = sql<{ drawn: number }>(
      db,
      `SELECT coalesce(sum(l.quantity - l.closed_short), 0) AS drawn FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
       WHERE l.blanket_line = ? AND o.stage <> 'cancelled' AND o.kind <> 'standing'`,
    ).get(id)!;
    if (called !== drawn) found.push(`what is left of blanket line ${id} is not committed less called off`);
  }
  none(
    "more was received than ordered, kept by tolerance and let in",
    `SELECT 'line ' || l.id AS what FROM order_line l
     WHERE l.received > l.quantity + coalesce((SELECT sum(min(x.over, x.quantity - x.undone)) FROM receipt_line_now x WHERE x.order_line = l.id), 0)`,
  );
  none(
    "more of a receipt was undone than was counted in, or its value is not gone with it",
    `SELECT 'receipt line ' || id AS what FROM receipt_line_now WHERE undone > quantity OR (undone = quantity AND home_undone <> home_value)`,
  );
  none(
    "what is left to decide of goods set aside is not what was decided less",
    `SELECT 'set aside ' || a.id AS what FROM set_aside a
     WHERE a.undecided <> a.quantity - coalesce((SELECT sum(d.quantity) FROM set_aside_decision d WHERE d.set_aside = a.id), 0)`,
  );
  none(
    "goods are awaited that should not be, or the other way",
    `SELECT 'line ' || l.id AS what FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
     WHERE l.awaited <> (o.stage <> 'cancelled' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge')`,
  );
  for (const o of sql<{ id: OrderId; state: string }>(db, "SELECT id, state FROM purchase_order").all()) {
    const facts = readFacts(db, o.id);
    const stage = stageAfter(facts);
    if (stage !== facts.stage || orderStatus(facts) !== o.state)
      found.push(`order ${o.id} does not stand where its lines say`);
  }
  none(
    "a placed order has no revision that binds",
    "SELECT o.number AS what FROM purchase_order o WHERE o.placed IS NOT NULL AND NOT EXISTS (SELECT 1 FROM order_revision v WHERE v.purchase_order = o.id AND v.revision = o.binding)",
  );
  for (const [kind, table, letter] of [
    ["order", "purchase_order", ""],
    ["requisition", "requisition", "R"],
    ["receipt", "receipt", "D"],
    ["transfer", "transfer", "T"],
    ["return", "goods_return", "B"],
    ["undo", "receipt_undo", "U"],
    ["stock paper", "stock_paper", "M"],
    ["stock count", "stock_count", "C"],
    ["use order", "purchase_order", "K"],
    ["agreement", "agreement", "A"],
    ["refill", "refill", "F"],
    ["consigned delivery", "consigned_delivery", "G"],
    ["use statement", "use_statement", "S"],
    ["claim", "claim", "L"],
    ["payment", "payment", "P"],
  ] as const) {
    for (const { own, year, last } of sql<{ own: string; year: number; last: number }>(
      db,
      "SELECT kind AS own, year, last FROM series WHERE kind = @kind OR kind LIKE @kind || '/%'",
    ).all({ kind })) {
      const start = `${own === kind ? letter : own.slice(kind.length + 1)}${String(year).slice(2)}-`;
      const { n } = sql<{ n: number }>(db, `SELECT count(DISTINCT number) AS n FROM ${table} WHERE number LIKE ?`).get(
        `${start}%`,
      )!;
      if (n !== last - 1000) found.push(`the series ${start} has ${n} papers for ${last - 1000} numbers`);
    }
  }
  for (const o of sql<{ id: OrderId; currency: string; discount: number; net: number; total: number }>(
    db,
    "SELECT id, currency, discount, net, total FROM purchase_order",
  ).all()) {
    const t = orderTotals(readOrderLines(db, o.id, o.currency), o.discount, o.currency);
    if (t.net.minor !== o.net || t.total.minor !== o.total)
      found.push(`order ${o.id} keeps other totals than its lines come to`);
  }
  none(
    "what an order comes to at home is not the sum of its lines",
    `SELECT 'order ' || o.id AS what FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id
     GROUP BY o.id HAVING count(l.home_net) = count(*) AND sum(l.home_net) <> o.home_net`,
  );
  if (sql(db, "SELECT 1 FROM budget_touch").get()) found.push("what papers take of budgets was not worked out again");
  else found.push(...brokenCommitments(db));
  found.push(...brokenConsigned(db));
  found.push(...brokenSettling(db));
  const broken = brokenLink(db);
  if (broken !== null) found.push(`the audit trail is broken at row ${broken}`);
  return found;
}
