import { useLoaderData, useNavigate } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { type BlanketLineView, type BlanketRow, readBlankets } from "../../../server/queries/orders/blankets";
import { BurnLine } from "../../ui/burn-line";
import { Button, ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { unlessOnlyLooking, useAt } from "../../ui/use-at";
import { page } from "../../web/page";
import { OrderPages } from "./order-pages";

export const loader = page("see orders", ({ db, day, person }) => ({
  blankets: readBlankets(db, day),
  mayWrite: may(person.roles, "write orders"),
}));
export const shouldRevalidate = unlessOnlyLooking;

interface Row {
  blanket: BlanketRow;
  line: BlanketLineView | null;
}
const keyOf = (r: Row) => `${r.blanket.id}/${r.line?.id ?? 0}`;
const GRAVE = new Set(["runs out", "not used up", "ended"]);

/** Blanket orders by line: what is left, how fast it goes, and what stands out. */
export default function Blankets() {
  const { blankets, mayWrite } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const rows = blankets.flatMap((blanket): Row[] =>
    blanket.lines.length ? blanket.lines.map((line) => ({ blanket, line })) : [{ blanket, line: null }],
  );
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const open = (r: Row) => navigate(`/orders/${r.blanket.id}`);
  const columns = columnsIn(w);
  const standing = rows.filter((r) => r.line?.warnings.some((m) => GRAVE.has(m.kind))).length;
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Blanket orders" sub={`${count(blankets.length, "order")}, what stands out first`}>
            <OrderPages here="blankets" />
          </SheetHead>
          <Sheet
            label="Blanket orders"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={open}
            empty={
              <Empty title="No blanket order yet">
                A blanket order fixes a price for a quantity or value over a time; goods are called off from it.
              </Empty>
            }
          />
        </>
      }
      slip={here ? <BlanketSlip row={here} /> : <Empty title="None chosen" />}
      tally={
        <TallyLine
          keys={[["arrowdown", "move"]]}
          act={
            <span className="flex items-center gap-2">
              {mayWrite && <ButtonLink to="/orders/new?kind=blanket">New blanket order</ButtonLink>}
              {here && (
                <Button look="main" hint="⏎" onClick={() => open(here)}>
                  {here.blanket.placed && mayWrite ? "Open it to call off" : `Open ${here.blanket.name}`}
                </Button>
              )}
            </span>
          }
        >
          <span>
            <b>{rows.filter((r) => r.line).length}</b> lines in force
          </span>
          {standing > 0 && <span className="font-semibold text-signal">{standing} stand out</span>}
        </TallyLine>
      }
    />
  );
}

const columnsIn = (w: ReturnType<typeof useWriting>): SheetColumn<Row>[] => [
  {
    key: "what",
    head: "Blanket order",
    cell: (r) => (
      <Named name={r.line?.words ?? r.blanket.title} code={`${r.blanket.supplierName} · ${r.blanket.name}`} strong />
    ),
  },
  {
    key: "left",
    head: "Left",
    align: "right",
    cell: (r) =>
      r.line ? (
        <>
          <span className="figure">
            {r.line.terms.limits === "value"
              ? w.money(r.line.left.leftValue, r.blanket.currency)
              : w.quantity(r.line.left.left)}
          </span>{" "}
          <span className="text-2xs text-ink-3">
            {r.line.terms.limits === "value" ? r.blanket.currency : r.line.terms.unit}
          </span>
        </>
      ) : (
        <StateSquare state={r.blanket.state} />
      ),
  },
  {
    key: "used",
    head: "Used",
    width: "18%",
    cell: (r) => r.line && <Used used={r.line.left.used} grave={r.line.warnings.some((m) => m.kind === "runs out")} />,
  },
  { key: "ends", head: "Ends", align: "right", cell: (r) => w.day(r.blanket.ends, false) },
  {
    key: "out",
    head: "Used up on",
    align: "right",
    cell: (r) =>
      r.line?.burn.runsOut ? (
        <span className={r.line.burn.runsOut < r.blanket.ends ? "font-semibold text-signal" : "text-ink-2"}>
          {r.line.burn.runsOut > r.blanket.ends ? "after its end" : w.day(r.line.burn.runsOut, false)}
        </span>
      ) : (
        <span className="text-ink-3">·</span>
      ),
  },
  {
    key: "stands",
    head: "What stands out",
    cell: (r) => {
      const first = r.line?.warnings[0];
      return first ? (
        <span className={GRAVE.has(first.kind) ? "font-semibold text-signal" : ""}>{first.kind}</span>
      ) : (
        <span className="text-ink-3">{r.line ? "on course" : "not in force yet"}</span>
      );
    },
  },
];

/** What stands out of a blanket line, how fast it goes, and what is planned. */
function BlanketSlip({ row }: { row: Row }) {
  return (
    <>
      <SlipHead over={`${row.blanket.supplierName} · ${row.blanket.name}`} title={row.line?.words ?? row.blanket.title}>
        {row.line?.warnings.map((m) => (
          <p key={m.kind} className="mt-1">
            <b className={GRAVE.has(m.kind) ? "text-signal" : ""}>{m.says}</b>{" "}
            <span className="text-ink-2">{m.does}</span>
          </p>
        ))}
      </SlipHead>
      {row.line && <LineLeft line={row.line} />}
    </>
  );
}

function LineLeft({ line }: { line: BlanketLineView }) {
  const w = useWriting();
  return (
    <>
      <BurnLine line={line.terms} calls={line.calls} runsOut={line.burn.runsOut} label={line.words} width={356} />
      <SumSheet sum={line.burn.sum} />
      <SumSheet sum={line.left.sum} />
      {line.planned.length > 0 && (
        <SlipPart title="Planned">
          <ul className="border border-rule bg-sheet">
            {line.planned.map((p) => (
              <li key={p.id} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
                <span className={p.late ? "font-semibold text-signal" : ""}>{w.day(p.due)}</span>
                <span className="figure">
                  {w.quantity(p.quantity)} {line.terms.unit}
                </span>
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
    </>
  );
}

function Used({ used, grave }: { used: number; grave: boolean }) {
  const w = useWriting();
  return (
    <span className="flex items-center gap-2">
      <span className="relative h-[9px] w-full max-w-32 border border-ink bg-sheet" aria-hidden="true">
        <span
          className={`absolute inset-y-0 left-0 ${grave ? "bg-signal" : "bg-ink"}`}
          style={{ width: `${Math.min(100, used / 100)}%` }}
        />
      </span>
      <span className="figure w-12 text-right text-xs">{w.percent(Math.floor(used / 100) * 100)}</span>
    </span>
  );
}
