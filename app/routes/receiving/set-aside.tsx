import { useRef } from "react";
import { useLoaderData, useNavigate } from "react-router";
import { daysBetween } from "../../../core/calendar/day";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { asideWords } from "../../../core/receiving/set-aside";
import { count, unitWords } from "../../../core/text";
import { type AsideRow, picturesOfAsides, readAsides } from "../../../server/queries/receiving/set-aside";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { asideActs } from "./aside-acts";
import { AsideSlip } from "./aside-slip";
import { DockPages } from "./dock-pages";

export const loader = page("see dock", ({ db, person }) => {
  const rows = readAsides(db, may(person.roles, "count in") ? person.store : null);
  const pictures = picturesOfAsides(
    db,
    rows.map((r) => r.id),
  );
  return {
    rows: rows.map((r) => ({ ...r, pictures: pictures.get(r.id) ?? [] })),
    pictures: may(person.roles, "picture goods"),
    decides: may(person.roles, "judge goods"),
    orders: may(person.roles, "see orders"),
    counts: may(person.roles, "count in"),
  };
});

export const action = actions("judge goods", asideActs);

const keyOf = (r: AsideRow) => String(r.id);

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<AsideRow>[] => [
  {
    key: "goods",
    head: "Goods",
    cell: (r) => <Named name={r.name} code={`${r.number} · ${r.supplierName}`} />,
  },
  {
    key: "quantity",
    keep: 3,
    head: "Undecided",
    align: "right",
    cell: (r) => (
      <>
        <span className="figure">{w.quantity(r.undecided)}</span>{" "}
        <span className="text-2xs text-ink-3">{unitWords(r.undecided, r.unit)}</span>
      </>
    ),
  },
  { key: "why", keep: 2, head: "Why", cell: (r) => asideWords(r) },
  { key: "store", keep: 0, head: "Lies at", cell: (r) => r.storeName },
  {
    key: "since",
    keep: 1,
    head: "Since",
    align: "right",
    cell: (r) => {
      const days = daysBetween(r.day, w.today);
      return (
        <span className={days > 3 ? "font-semibold text-signal" : ""}>{days === 0 ? "today" : count(days, "day")}</span>
      );
    },
  },
];

/** Goods that were counted and not taken in, and what is to become of them. */
export default function SetAside() {
  const { rows, pictures, decides, orders, counts } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const here = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  const keep = useRef<(() => void) | null>(null);
  const back = useRef<(() => void) | null>(null);
  useKeys(
    decides && here
      ? [
          { key: "y", label: "keep it", run: () => keep.current?.() },
          { key: "b", label: "send it back", run: () => back.current?.() },
          { key: "o", label: "change the order", run: () => navigate(`/orders/${here.order}`) },
        ]
      : [],
  );
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title="Set aside"
            sub={rows.length === 0 ? "nothing waits" : "counted, and not taken in: what is to become of it"}
          >
            <DockPages here="aside" counts={counts} />
          </SheetHead>
          <Sheet
            label="Goods set aside"
            columns={columnsOf(w)}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            onOpen={(r) => navigate(`/receipts/${r.receipt}`)}
            empty={
              <Empty title="Nothing is set aside">
                What is more than may be kept, too early, or not good stands here until somebody decides about it.
              </Empty>
            }
          />
        </>
      }
      slip={
        here ? (
          <AsideSlip
            key={`${here.id} ${here.undecided}`}
            row={here}
            pictures={pictures}
            decides={decides}
            orders={orders}
            keep={keep}
            back={back}
          />
        ) : (
          <Empty title="Nothing chosen" />
        )
      }
      tally={
        <TallyLine
          keys={
            decides && here
              ? [
                  ["y", "keep"],
                  ["b", "send back"],
                  ["o", "change the order"],
                ]
              : []
          }
        >
          <span>
            <b>{rows.length}</b> to decide
          </span>
          {here && (
            <span>
              {quantityText(here.undecided)} {unitWords(here.undecided, here.unit)} wait for <b>{here.buyer}</b>
            </span>
          )}
        </TallyLine>
      }
    />
  );
}
