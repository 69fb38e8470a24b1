import { Link, useLoaderData, useSearchParams } from "react-router";
import { parseDay } from "../../../core/calendar/day";
import { may } from "../../../core/people/roles";
import { accountChoices, storeChoices } from "../../../server/queries/choices";
import { usualPlan } from "../../../server/queries/needs/need";
import { readItem, readSuppliersToAdd, readUnits } from "../../../server/queries/records/item";
import { DayEntry } from "../../ui/day-entry";
import { RecordForm } from "../../ui/form";
import { SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { TallyLine } from "../../ui/tally-line";
import { withParts } from "../../ui/use-at";
import { actions, idOf, notFound, page } from "../../web/page";
import { FactStrip } from "../orders/order-head";
import type { ItemWord } from "./item-acts";
import { itemActs } from "./item-acts";
import { ItemFields } from "./item-fields";
import { Alternatives, PaidPart } from "./item-slip";
import { StockPart } from "./item-stock";
import { SuppliersPart } from "./item-suppliers";

export const loader = page("see items", ({ db, params, person, day, hour, url }) => {
  const id = idOf(params.id);
  const sheet = readItem(
    db,
    id,
    usualPlan(day, hour),
    may(person.roles, "see prices"),
    parseDay(url.searchParams.get("upTo") ?? "") ?? undefined,
  );
  if (!sheet) throw notFound("There is no such item.");
  const maySource = may(person.roles, "keep sourcing");
  return {
    sheet,
    maySource,
    mayKeep: may(person.roles, "keep items"),
    seesPrices: may(person.roles, "see prices"),
    tolerances: may(person.roles, "see tolerances"),
    labels: may(person.roles, "print labels"),
    units: readUnits(db),
    accounts: accountChoices(db),
    stores: storeChoices(db),
    suppliers: maySource ? readSuppliersToAdd(db, id).suppliers : [],
  };
});

export const action = actions("see items", itemActs, ({ params }) => ({ item: idOf(params.id) }));

const PARTS = ["stock", "suppliers", "record"] as const;
const PART_WORDS = { stock: "Stock and reordering", suppliers: "Suppliers and prices", record: "The item itself" };

/** Everything about one item: its stock, how it goes on, who sells it, what may stand in for it. */
export default function ItemPage() {
  const loaded = useLoaderData<typeof loader>();
  const { sheet, mayKeep, maySource } = loaded;
  const { head, kept, sources } = sheet;
  const w = useWriting();
  const [search, setSearch] = useSearchParams();
  const stocked = head.kind === "stocked";
  const parts = PARTS.filter((p) => (p !== "stock" || stocked) && (p !== "record" || mayKeep));
  const part = parts.find((p) => p === search.get("part")) ?? parts[0]!;
  const onHand = kept.reduce((a, k) => a + k.onHand, 0);
  return (
    <SheetAndSlip
      sheet={
        <div key={head.id} className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title={head.name} sub={<span className="code text-xs">{head.code}</span>} />
          <FactStrip
            facts={[
              ["Kind", head.kind],
              ["Category", head.category || "–"],
              ["Stock unit", `${head.unitName} (${head.unit})`],
              ["GTIN", head.gtin ?? "–"],
              ["Cost of one", head.referenceCost === null ? "–" : w.price(head.referenceCost)],
              ["Account", head.account ?? "–"],
            ]}
          />
          <fieldset className="flex gap-1.5 px-4.5 py-2.5">
            <legend className="sr-only">Part of the item</legend>
            {parts.map((p) => (
              <button
                key={p}
                type="button"
                aria-pressed={p === part}
                onClick={() => setSearch(withParts({ part: p }), { replace: true, preventScrollReset: true })}
                className="rounded-[2px] border border-rule bg-field px-2.5 py-[3px] text-xs text-ink-2 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
              >
                {PART_WORDS[p]}
              </button>
            ))}
            {loaded.tolerances && (
              <Link
                to={`/tolerances?scope=item&item=${encodeURIComponent(head.code)}`}
                className="self-center text-xs underline"
              >
                What may be kept of deliveries
              </Link>
            )}
            {loaded.labels && (
              <Link to={`/labels?item=${head.id}`} className="self-center text-xs underline">
                Labels
              </Link>
            )}
          </fieldset>
          {part === "stock" && (
            <div className="flex items-center gap-2 border-t-2 border-ink px-4.5 py-1.5 text-xs text-ink-2">
              Committed, on order and available up to
              <DayEntry
                aria-label="Committed, on order and available up to"
                className="w-[136px]"
                min={w.today}
                value={sheet.last}
                onDay={(upTo) =>
                  setSearch(withParts({ upTo: upTo || null }), { replace: true, preventScrollReset: true })
                }
              />
            </div>
          )}
          {part === "stock" && <StockPart {...loaded} />}
          {part === "suppliers" && <SuppliersPart {...loaded} />}
          {part === "record" && (
            <div className="border-t-2 border-ink px-4.5 py-4">
              <RecordForm<ItemWord>
                does="keep item"
                send="Keep the item"
                className="grid max-w-3xl grid-cols-3 gap-4 max-md:grid-cols-1"
              >
                {(at) => <ItemFields head={head} units={loaded.units} accounts={loaded.accounts} at={at} />}
              </RecordForm>
            </div>
          )}
        </div>
      }
      slip={
        <>
          {sheet.paid && sheet.paid.length > 0 && <PaidPart paid={sheet.paid} />}
          <Alternatives item={head.id} rows={sheet.alternatives} mayKeep={maySource} />
          {stocked && (
            <p>
              <Link className="font-semibold underline" to={`/items/${head.id}/movements`}>
                Every movement of this item
              </Link>
            </p>
          )}
        </>
      }
      tally={
        <TallyLine>
          {stocked && (
            <span>
              <b className="figure">{w.quantity(onHand)}</b> {head.unitName} on hand in {kept.length}{" "}
              {kept.length === 1 ? "store" : "stores"}
            </span>
          )}
          <span>
            <b>{sources.length}</b> {sources.length === 1 ? "supplier" : "suppliers"}
          </span>
        </TallyLine>
      }
    />
  );
}
