import { Link, useLoaderData, useNavigate } from "react-router";
import { may } from "../../../core/people/roles";
import { turnsIn } from "../../../core/settling/match";
import { count } from "../../../core/text";
import { type InvoiceHead, readInvoices } from "../../../server/queries/settling/invoices";
import { type NotInvoiced, readNotInvoiced } from "../../../server/queries/stock/values";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { atOf, page } from "../../web/page";
import { turnWords } from "./words";

export const loader = page("see invoices", ({ db, person, url }) => {
  const { rows, value, found } = readNotInvoiced(db);
  return {
    rows: readInvoices(db, atOf(url, "supplier")),
    notInvoiced: { rows: rows.slice(0, 12), value, found },
    enters: may(person.roles, "enter invoices"),
    pays: may(person.roles, "see payables"),
  };
});

/** Where it is settled: by its invoice, or by the use statement of its agreement. */
const settledAt = (r: NotInvoiced, enters: boolean) =>
  r.byStatement ? "/statements" : enters ? `/settle/new?order=${r.number}` : `/orders/${r.order}`;

const keyOf = (r: InvoiceHead) => String(r.id);

/** Invoices: what is held, with whose turn it is, then what matched; and what came that nobody billed. */
export default function InvoicesPage() {
  const { rows, notInvoiced, enters, pays } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  useKeys(enters ? [{ key: "e", label: "enter an invoice", run: () => void navigate("/settle/new") }] : []);
  const columns: SheetColumn<InvoiceHead>[] = [
    {
      key: "of",
      head: "Invoice",
      gives: true,
      cell: (r) => (
        <Link className="hover:underline" to={`/settle/${r.id}`}>
          <Named name={r.supplierName} code={[r.number, r.orders && `for ${r.orders}`].filter(Boolean).join(" · ")} />
        </Link>
      ),
    },
    {
      key: "state",
      head: "Stands",
      keep: 3,
      cell: (r) => (
        <span className="flex items-center gap-1.5">
          <StateSquare state={r.state} />
          {r.turn && <span className="text-xs text-ink-2">for {turnWords(turnsIn(r.turn))}</span>}
        </span>
      ),
    },
    { key: "day", head: "Its day", keep: 1, cell: (r) => w.day(r.day, false) },
    {
      key: "total",
      head: "With tax",
      keep: 2,
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.total, r.currency)}</span>,
    },
    { key: "due", head: "Paid by", keep: 1, align: "right", cell: (r) => w.day(r.due, false) },
  ];
  const held = rows.filter((r) => r.state === "Held");
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Settle" sub="invoices against what was ordered and what came">
            <Link className="text-xs underline" to="/claims">
              Claims
            </Link>
            {pays && (
              <Link className="text-xs underline" to="/payables">
                Payables
              </Link>
            )}
          </SheetHead>
          <Sheet
            label="Invoices"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/settle/${r.id}`)}
            empty={
              <Empty title="No invoice was entered yet">
                An invoice that agrees with what was ordered and what came matches by itself; any other is held, and
                says whose turn it is.
              </Empty>
            }
          />
        </>
      }
      slip={
        <SlipPart title="Received, not invoiced">
          {notInvoiced.rows.length === 0 ? (
            <p className="text-ink-2">Everything that came is invoiced.</p>
          ) : (
            <>
              <ul className="flex flex-col">
                {notInvoiced.rows.map((r) => (
                  <li key={r.order} className="flex items-baseline gap-2 border-b border-rule-2 py-1.5">
                    <span className="min-w-0 flex-1 truncate">
                      {r.supplierName}{" "}
                      <Link className="code underline" to={settledAt(r, enters)}>
                        {r.number}
                      </Link>
                    </span>
                    <span className="figure">{w.money(r.value)}</span>
                  </li>
                ))}
              </ul>
              <p className="mt-2 flex justify-between font-semibold">
                <span>of {count(notInvoiced.found, "order")}</span>
                <span className="figure">{w.amount(notInvoiced.value)}</span>
              </p>
            </>
          )}
        </SlipPart>
      }
      tally={
        <TallyLine
          act={
            enters && (
              <ButtonLink look="main" to="/settle/new" hint="E">
                Enter an invoice
              </ButtonLink>
            )
          }
        >
          <span>
            <b>{count(held.length, "invoice")}</b> held
          </span>
        </TallyLine>
      }
    />
  );
}
