import { Link, useLoaderData, useNavigate } from "react-router";
import { daysBetween } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import type { Awaits } from "../../../core/receiving/set-aside";
import { count, unitWords } from "../../../core/text";
import { settleReturn } from "../../../server/acts/receiving/decide-aside";
import { type ReturnRow, readReturns } from "../../../server/queries/receiving/set-aside";
import { SlipForm } from "../../parts/slip-form";
import { ButtonLink } from "../../ui/button";
import { TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, type PageActs, page } from "../../web/page";
import { DockPages } from "./dock-pages";

export const loader = page("see dock", ({ db, person }) => ({
  rows: readReturns(db, may(person.roles, "count in") ? person.store : null),
  settles: may(person.roles, "judge goods"),
  orders: may(person.roles, "see orders"),
  counts: may(person.roles, "count in"),
}));

const returnActs = { settle: settleReturn } satisfies PageActs;
type ReturnWord = keyof typeof returnActs;
export const action = actions("judge goods", returnActs);

const keyOf = (r: ReturnRow) => String(r.id);
const AWAITED: Record<Awaits, string> = { replacement: "goods instead", credit: "a credit", nothing: "nothing" };

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<ReturnRow>[] => [
  {
    key: "number",
    head: "Return",
    cell: (r) => <Named name={r.supplierName} code={`${r.number} · order ${r.orderNumber}`} />,
  },
  {
    key: "what",
    keep: 2,
    head: "Goods",
    cell: (r) => r.lines.map((l) => `${w.quantity(l.quantity)} ${unitWords(l.quantity, l.unit)} ${l.name}`).join(", "),
  },
  { key: "awaits", keep: 3, head: "Awaited", cell: (r) => AWAITED[r.awaits] },
  { key: "day", keep: 0, head: "Sent", align: "right", cell: (r) => w.day(r.day, false) },
  {
    key: "since",
    keep: 1,
    head: "State",
    align: "right",
    cell: (r) =>
      r.settled ? (
        `settled ${w.day(r.settled, false)}`
      ) : (
        <span className={daysBetween(r.day, w.today) > 14 ? "font-semibold text-signal" : ""}>
          {r.day === w.today ? "open since today" : `open ${count(daysBetween(r.day, w.today), "day")}`}
        </span>
      ),
  },
];

/** Goods that went back to their suppliers, and what is awaited for them. */
export default function Returns() {
  const { rows, settles, orders, counts } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const open = rows.filter((r) => !r.settled).length;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Returns"
            sub={open === 0 ? "nothing is awaited" : `${count(open, "return")} awaited, the longest first`}
          >
            <DockPages here="returns" counts={counts} />
          </SheetHead>
          <Sheet
            label="Returns"
            columns={columnsOf(w)}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={(r) => navigate(`/returns/${r.id}/paper.pdf`)}
            empty={
              <Empty title="Nothing went back">
                What is sent back from goods set aside stands here, with its paper.
              </Empty>
            }
          />
        </>
      }
      slip={
        here ? (
          <ReturnSlip key={here.id} row={here} settles={settles} orders={orders} />
        ) : (
          <Empty title="Nothing chosen" />
        )
      }
      tally={
        <TallyLine
          act={
            here && (
              <ButtonLink to={`/returns/${here.id}/paper.pdf`} look="main" reload>
                Paper {here.number}
              </ButtonLink>
            )
          }
        >
          <span>
            <b>{open}</b> awaited
          </span>
        </TallyLine>
      }
    />
  );
}

function ReturnSlip({ row: r, settles, orders }: { row: ReturnRow; settles: boolean; orders: boolean }) {
  const w = useWriting();
  return (
    <>
      <SlipHead over={`sent back ${w.day(r.day)} by ${r.by}`} title={`${r.number} to ${r.supplierName}`}>
        <p className="mt-1 text-ink-2">
          From {r.storeName}, of order{" "}
          {orders ? (
            <Link className="underline" to={`/orders/${r.order}`}>
              {r.orderNumber}
            </Link>
          ) : (
            r.orderNumber
          )}
        </p>
      </SlipHead>
      <p className="border-l-4 border-ink pl-3">{r.reason}</p>
      <SlipPart title="Goods">
        <ul className="border border-rule bg-sheet">
          {r.lines.map((l, i) => (
            <li key={i} className="border-b border-rule-2 px-2.5 py-1 last:border-0">
              <span className="figure">{w.quantity(l.quantity)}</span> {unitWords(l.quantity, l.unit)} of {l.name}
              <span className="code block">
                {[l.code, l.lot && `lot ${l.lot}`, l.why, l.note, `came with ${l.receiptNumber}`]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </li>
          ))}
        </ul>
      </SlipPart>
      <SlipPart title="What is awaited">
        <p>
          {AWAITED[r.awaits]}
          {r.settled ? `: settled ${w.day(r.settled)}${r.settledHow && `, ${r.settledHow}`}` : ""}
        </p>
        {settles && !r.settled && (
          <SlipForm<ReturnWord> does="settle" fields={{ goodsReturn: r.id }} label="It has come" send="Settled">
            <TextField label="With which paper" name="how" maxLength={120} />
          </SlipForm>
        )}
      </SlipPart>
    </>
  );
}
