import { type Db, sql } from "../../db/open";

/** Invoices that count: those that matched, whatever is paid of them since. */
const MATCHED = "v.state NOT IN ('Held', 'Sent back', 'Taken off')";

/** What must hold of invoices, claims and payables in any company's file at any time (domain-goods §17); each sentence names a row. */
export function brokenSettling(db: Db): string[] {
  const found: string[] = [];
  const none = (says: string, query: string) => {
    for (const row of sql<{ what: string }>(db, query).all()) found.push(`${says}: ${row.what}`);
  };
  none(
    "what is invoiced of an order line is not what its invoices and use statements bill",
    `SELECT 'line ' || d.id AS what FROM order_line d
     LEFT JOIN (SELECT l.order_line, sum(l.quantity - coalesce((SELECT sum(c.quantity) FROM claim c WHERE c.invoice_line = l.id AND c.state <> 'Withdrawn'), 0)) AS quantity
                FROM invoice_line l JOIN invoice v ON v.id = l.invoice WHERE ${MATCHED} GROUP BY l.order_line) b ON b.order_line = d.id
     LEFT JOIN (SELECT u.order_line, sum(u.quantity) AS quantity FROM consigned_use u JOIN use_statement s ON s.id = u.statement AND s.state = 'Agreed' GROUP BY u.order_line) u ON u.order_line = d.id
     WHERE d.invoiced <> coalesce(b.quantity, 0) + coalesce(u.quantity, 0)`,
  );
  none(
    "more is invoiced of an order line than came",
    `SELECT 'line ' || d.id AS what FROM order_line d JOIN purchase_order o ON o.id = d.purchase_order
     WHERE d.invoiced > 0 AND d.kind <> 'charge' AND o.agreement IS NULL
       AND d.invoiced > (SELECT coalesce(sum(x.quantity - x.undone), 0) FROM receipt_line_now x WHERE x.order_line = d.id)`,
  );
  none(
    "an invoice that matched is not owed once, or one that did not is",
    `SELECT 'invoice ' || v.id AS what FROM invoice v LEFT JOIN payable y ON y.invoice = v.id AND y.ended IS NULL
     WHERE (${MATCHED}) <> (y.id IS NOT NULL) OR (y.id IS NOT NULL AND (y.total <> v.total OR y.home_total <> v.home_total OR y.currency <> v.currency))`,
  );
  none(
    "an invoice has no whole of lines and taxes",
    `SELECT 'invoice ' || v.id AS what FROM invoice v WHERE v.net + v.tax <> v.total
       OR (v.kind = 'invoice' AND v.tax <> coalesce((SELECT sum(t.tax) FROM invoice_tax t WHERE t.invoice = v.id), 0))`,
  );
  none(
    "claims in the journal are not those that are open",
    `SELECT p.minor || ' and ' || c.home AS what FROM (SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE role = 'claims') p
     JOIN (SELECT coalesce(sum(c.home), 0) AS home FROM claim c JOIN invoice v ON v.id = c.invoice WHERE c.state = 'Open' AND ${MATCHED}) c WHERE p.minor <> c.home`,
  );
  none(
    "payables in the journal are not what is owed",
    `SELECT p.minor || ' and ' || y.home AS what FROM (SELECT coalesce(-sum(minor), 0) AS minor FROM posting WHERE role = 'payable') p
     JOIN (SELECT coalesce(sum(home_total - home_settled), 0) AS home FROM payable_now WHERE ended IS NULL) y WHERE p.minor <> y.home`,
  );
  none(
    "a credited claim has no credit note, or another has one",
    "SELECT c.number AS what FROM claim c WHERE (c.state = 'Credited') <> (c.credit IS NOT NULL)",
  );
  none(
    "more is paid of a paper than is owed, or an invoice says otherwise than its payments",
    `SELECT 'payable ' || y.id AS what FROM payable_now y LEFT JOIN invoice v ON v.id = y.invoice
     WHERE (y.total > 0 AND y.settled NOT BETWEEN 0 AND y.total) OR (y.total < 0 AND y.settled NOT BETWEEN y.total AND 0)
       OR (y.settled = y.total AND y.home_settled <> y.home_total) OR (y.ended IS NOT NULL AND y.settled <> 0)
       OR (v.id IS NOT NULL AND y.ended IS NULL AND v.state <> iif(y.settled = 0, 'Matched', iif(y.settled = y.total, 'Paid', 'Part paid')))`,
  );
  none(
    "a payment is not the sum of its parts",
    "SELECT m.number AS what FROM payment m WHERE m.total <> (SELECT coalesce(sum(p.minor), 0) FROM payment_part p WHERE p.payment = m.id)",
  );
  none(
    "a pay list pays what another one pays, or more than is left",
    `SELECT 'payable ' || y.id AS what FROM pay_line_part g JOIN pay_line n ON n.id = g.line AND n.state = 'Listed' JOIN payable_now y ON y.id = g.payable
     GROUP BY y.id HAVING count(*) > 1 OR abs(sum(g.minor + g.discount)) > abs(y.total - y.settled) OR y.ended IS NOT NULL`,
  );
  none(
    "a transfer is not the sum of its parts, or one is executed without a payment",
    `SELECT q.number || ' ' || n.position AS what FROM pay_line n JOIN pay_list q ON q.id = n.list LEFT JOIN payment m ON m.id = n.payment
     WHERE n.total <> (SELECT coalesce(sum(g.minor), 0) FROM pay_line_part g WHERE g.line = n.id) OR (n.state = 'Executed') <> (m.id IS NOT NULL) OR m.total <> n.total`,
  );
  none(
    "a closed period holds other entries than when it was closed",
    `SELECT c.number AS what FROM book_close c WHERE (c.entries, c.debit) <> (SELECT count(DISTINCT e.id), coalesce(sum(max(p.minor, 0)), 0)
       FROM posting_entry e JOIN posting p ON p.entry = e.id WHERE e.day BETWEEN c.starts AND c.until)`,
  );
  none(
    "two invoices of a supplier bear one number",
    `SELECT supplier || '/' || plain AS what FROM invoice WHERE state NOT IN ('Sent back', 'Taken off') GROUP BY supplier, plain HAVING count(*) > 1`,
  );
  return found;
}
