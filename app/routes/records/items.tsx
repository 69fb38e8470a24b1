import { useMemo } from "react";
import { Link, useLoaderData, useNavigate, useRevalidator, useSearchParams } from "react-router";
import { ONE, quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { ITEMS, type ItemRow, type ItemSlip } from "../../../server/queries/records/items";
import { FindBox } from "../../parts/find-box";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { usePacked } from "../../ui/packed";
import { RuledSheet, type SheetColumn } from "../../ui/ruled-sheet";
import { Named } from "../../ui/sheet";
import { TideBar } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useRowAt } from "../../ui/use-row-at";
import { useRows } from "../../ui/use-rows";
import { useSlip } from "../../ui/use-slip";
import { readList } from "../../web/list";
import { page } from "../../web/page";

export const loader = page(ITEMS.act, (visit) => ({
  ...readList(ITEMS, visit),
  mayKeep: may(visit.person.roles, "keep items"),
}));

type Row = ItemRow;
const keyOf = (r: Row) => String(r.id);

/** Everything that is bought, by category. */
export default function Items() {
  const loaded = useLoaderData<typeof loader>();
  const sheet = usePacked(loaded.sheet);
  const w = useWriting();
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const [search] = useSearchParams();
  const find = search.get("find") ?? "";
  const address = new URLSearchParams({ find }).toString();
  const { row, want } = useRows<Row>(sheet, `/items/rows?${address}`, revalidate);
  const { at, here, setPlace } = useRowAt(sheet, row);
  const groups = useMemo(
    () => sheet.groups.map((g) => ({ start: g.start, heading: g.heading || "without a category" })),
    [sheet],
  );
  const columns: SheetColumn<Row>[] = [
    { key: "item", head: "Item", cell: (r) => <Named name={r.name} code={r.code} /> },
    { key: "kind", head: "Kind", cell: (r) => r.kind },
    {
      key: "hand",
      head: "On hand",
      align: "right",
      cell: (r) => <span className="figure">{r.onHand === null ? "·" : w.quantity(r.onHand)}</span>,
    },
    { key: "unit", head: "", name: "Unit", cell: (r) => <span className="text-ink-2">{r.unit}</span> },
    { key: "stores", head: "Stores", align: "right", cell: (r) => <span className="figure">{r.stores || "·"}</span> },
    {
      key: "supplier",
      head: "Preferred supplier",
      cell: (r) => r.supplier ?? <span className="text-ink-3">none yet</span>,
    },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Items" sub={`${w.quantity(sheet.all * ONE)} ${sheet.all === 1 ? "item" : "items"}`}>
            <FindBox text={find} />
          </SheetHead>
          <RuledSheet
            label="Items"
            columns={columns}
            source={{ count: sheet.count, row, groups, want }}
            keyOf={keyOf}
            place={at}
            onPlace={setPlace}
            onOpen={(r) => navigate(`/items/${r.id}`)}
            empty={
              <Empty title={sheet.all ? "No item like this" : "No items yet"}>
                {sheet.all
                  ? "Try a part of its code, its name or its supplier."
                  : "An administrator loads them under Files, or a purchasing lead enters them one by one."}
              </Empty>
            }
          />
        </>
      }
      slip={here ? <Slip row={here} /> : <Empty title="No item chosen" />}
      tally={
        <TallyLine
          keys={[
            ["enter", "open"],
            ["arrowdown", "move"],
          ]}
          act={
            loaded.mayKeep && (
              <ButtonLink to="/items/new" look="main">
                New item
              </ButtonLink>
            )
          }
        >
          <span>
            <b>{w.quantity(sheet.count * ONE)}</b> shown
          </span>
          <span className="text-ink-2">
            as{" "}
            <a className="underline" href={`/items.csv?${address}`} download>
              CSV
            </a>{" "}
            or{" "}
            <a className="underline" href={`/items.xlsx?${address}`} download>
              XLSX
            </a>
          </span>
        </TallyLine>
      }
    />
  );
}

function Slip({ row }: { row: Row }) {
  const w = useWriting();
  const { slip } = useSlip<ItemSlip>(`/items/slip?id=${row.id}`, 0);
  return (
    <>
      <SlipHead over={`${row.code} · ${row.kind}`} title={row.name}>
        <Link className="text-xs underline" to={`/items/${row.id}`}>
          Open the item
        </Link>
      </SlipHead>
      {slip && slip.stores.length > 0 && (
        <SlipPart title="Where it lies">
          <ul className="border border-rule bg-sheet">
            {slip.stores.map((s) => (
              <li key={s.id} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
                <div className="flex justify-between">
                  <span className="font-semibold">
                    {s.name} <span className="code">{s.bin}</span>
                  </span>
                  <span className="figure">
                    {w.quantity(s.onHand)} <span className="font-sans text-xs text-ink-3">{row.unit}</span>
                  </span>
                </div>
                <TideBar available={s.onHand} reorderPoint={s.reorderPoint} unit={row.unit} />
                <p className="text-2xs text-ink-3">
                  reorder point {w.quantity(s.reorderPoint)}, {s.policy}
                  {s.lot > 0 && ` ${w.quantity(s.lot)}`}; used {w.quantity(s.usage.last30)} in 30 days
                </p>
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      {slip && slip.sources.length > 0 && (
        <SlipPart title="Who sells it">
          <ul className="border border-rule bg-sheet">
            {slip.sources.map((s) => (
              <li key={s.id} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
                <div className="flex justify-between gap-2">
                  <span className="font-semibold">{s.supplier}</span>
                  <span className="code">{s.theirCode}</span>
                </div>
                <p className="text-xs text-ink-2">
                  1 {s.unit} = {w.quantity(s.factor)} {row.unit}, {s.leadDays} days
                </p>
                {s.breaks && s.breaks.length > 0 && (
                  <p className="figure">
                    {s.breaks.map((b) => `${quantityText(b.from)}: ${w.price(b.price, s.currency)}`).join("   ")}{" "}
                    <span className="font-sans text-2xs text-ink-3">
                      {s.currency}/{s.unit}
                    </span>
                  </p>
                )}
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      {slip && slip.movements.length > 0 && (
        <SlipPart title="Last movements">
          <table className="w-full border border-rule bg-sheet text-xs">
            <caption className="sr-only">Last movements</caption>
            <tbody>
              {slip.movements.map((m, i) => (
                <tr key={i} className="border-b border-rule-2 last:border-0">
                  <td className="py-0.5 pl-2.5">{w.day(m.day, false)}</td>
                  <td className="px-2">
                    {m.receipt ? (
                      <Link className="underline" to={`/receipts/${m.receipt}`}>
                        {m.kind}
                      </Link>
                    ) : (
                      m.kind
                    )}
                  </td>
                  <td className="px-2 text-ink-2">{m.store}</td>
                  <td className="figure pr-2.5 text-right">
                    {m.quantity > 0 ? "+" : ""}
                    {w.quantity(m.quantity)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </SlipPart>
      )}
    </>
  );
}
