import { useState } from "react";
import { useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { type ToleranceScope, toleranceWords } from "../../../core/receiving/tolerance";
import { theCompany } from "../../../server/queries/company";
import { readTolerances, type ToleranceRow } from "../../../server/queries/receiving/tolerances";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { toleranceActs } from "./tolerance-acts";
import { ToleranceSlip } from "./tolerance-slip";

export const loader = page("see tolerances", ({ db, person, url }) => ({
  rows: readTolerances(db),
  currency: theCompany(db).currency,
  keeps: may(person.roles, "keep tolerances"),
  keepsLines: may(person.roles, "judge goods"),
  // From an order, an item or a supplier: what a new one is for.
  named: Object.fromEntries(
    (["scope", "supplier", "item", "order", "position"] as const).map((k) => [k, url.searchParams.get(k) ?? ""]),
  ),
}));

export const action = actions("see tolerances", toleranceActs);

const keyOf = (r: ToleranceRow) => String(r.id);

/** For what a tolerance holds. */
const scopeName = (r: ToleranceRow): string => {
  switch (r.scope) {
    case "house":
      return "The house";
    case "supplier":
      return r.supplierName ?? "";
    case "category":
      return r.category ?? "";
    case "item":
      return r.itemName ?? "";
    case "item at supplier":
      return `${r.itemName} from ${r.supplierName}`;
    case "order line":
      return `${r.lineWords}, line ${r.position} of ${r.orderNumber ?? `draft ${r.order}`}`;
  }
};

const days = (n: number | null) => (n === null ? "" : n === 1 ? "1 day" : `${n} days`);
const quiet = (text: string) => text || <span className="text-ink-3">·</span>;

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<ToleranceRow>[] => [
  { key: "for", head: "Holds for", cell: (r) => <Named name={scopeName(r)} code={r.scope} /> },
  { key: "over", keep: 4, head: "Over", cell: (r) => quiet(toleranceWords(r.overPercent, r.overQuantity)) },
  { key: "under", keep: 3, head: "Under", cell: (r) => quiet(toleranceWords(r.underPercent, r.underQuantity)) },
  { key: "beyond", keep: 2, head: "Beyond", cell: (r) => quiet(r.beyond ?? "") },
  {
    key: "early",
    keep: 1,
    head: "Early",
    cell: (r) => quiet([days(r.earlyDays), r.early].filter(Boolean).join(", ")),
  },
  { key: "late", keep: -1, head: "Late", cell: (r) => quiet(days(r.lateDays)) },
  {
    key: "price",
    keep: 0,
    head: "Price",
    cell: (r) =>
      quiet(
        [
          toleranceWords(r.pricePercent, null),
          r.priceAmount === null ? "" : `${r.pricePercent === null ? "" : "at most "}${w.amount(r.priceAmount)}`,
        ]
          .filter(Boolean)
          .join(", "),
      ),
  },
];

/** For what a new one is, where the address does not say. */
const usualScope = (keeps: boolean, any: boolean): ToleranceScope =>
  !keeps ? "order line" : any ? "supplier" : "house";

/** What may be kept of deliveries and prices that are not as ordered: each value by the narrowest that sets it. */
export default function Tolerances() {
  const { rows, currency, keeps, keepsLines, named } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const [making, setMaking] = useState(named.scope !== "");
  const here = making ? null : (rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null);
  const mayKeep = (scope: ToleranceScope) => keeps || (keepsLines && scope === "order line");
  const makes = keeps || keepsLines;
  useKeys(makes ? [{ key: "+", label: "another tolerance", run: () => setMaking(true) }] : []);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Tolerances"
            sub="order line, item at supplier, item, category, supplier, house: the first that sets a value holds"
          />
          <Sheet
            label="Tolerances"
            columns={columnsOf(w)}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={(key) => {
              setMaking(false);
              setAt(key);
            }}
            empty={
              <Empty title="No tolerance is set">
                Until one is, nothing over is kept without the buyer, nothing under is complete, and nothing is too
                early.
              </Empty>
            }
          />
        </>
      }
      slip={
        here || makes ? (
          <ToleranceSlip
            key={here ? here.id : `new ${rows.length}`}
            row={here}
            named={here ? {} : { ...named, scope: named.scope || usualScope(keeps, rows.length > 0) }}
            currency={currency}
            keeps={here ? mayKeep(here.scope) : makes}
          />
        ) : (
          <Empty title="Nothing chosen" />
        )
      }
      tally={<TolerancesTally set={rows.length} makes={makes} onMake={() => setMaking(true)} />}
    />
  );
}

function TolerancesTally({ set, makes, onMake }: { set: number; makes: boolean; onMake: () => void }) {
  return (
    <TallyLine
      keys={makes ? [["+", "another"]] : []}
      act={
        makes && (
          <Button look="main" onClick={onMake}>
            Another tolerance
          </Button>
        )
      }
    >
      <span>
        <b>{set}</b> set
      </span>
    </TallyLine>
  );
}
