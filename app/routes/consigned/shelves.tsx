import { useRef } from "react";
import { Link, useLoaderData, useSearchParams } from "react-router";
import { passesWords } from "../../../core/consigned/agreement";
import { isOneOf, recordOf } from "../../../core/keys";
import { may } from "../../../core/people/roles";
import { storeChoices } from "../../../server/queries/choices";
import {
  isIn,
  readConsigned,
  readShelfSlip,
  readSlipMoney,
  SHELF_CUTS,
  type ShelfCut,
  type ShelfRow,
  withWorth,
} from "../../../server/queries/consigned/shelves";
import { ButtonLink } from "../../ui/button";
import { Cuts, Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt, withParts } from "../../ui/use-at";
import { actions, atOf, page } from "../../web/page";
import { DockPages } from "../receiving/dock-pages";
import { shelfActs } from "./shelf-acts";
import { ShelfBar } from "./shelf-bar";
import { ShelfSlipView } from "./shelf-slip";

/** So many rows are sent to a page; more are narrowed by store or cut. */
const MOST = 500;

export const loader = page("see consigned", ({ db, person, url, day }) => {
  const store = atOf(url, "store");
  const all = readConsigned(db, day, { store, agreement: atOf(url, "agreement") });
  const named = url.searchParams.get("cut") ?? "";
  const cut: ShelfCut = isOneOf(SHELF_CUTS, named) ? named : "all";
  const cutRows = all.filter((r) => isIn(cut, r, day));
  const money = may(person.roles, "see prices");
  const shown = cutRows.slice(0, MOST);
  const worth = money ? withWorth(db, shown, day) : null;
  const here = shown.find((r) => String(r.id) === url.searchParams.get("at")) ?? shown[0] ?? null;
  const slip = here && readShelfSlip(db, here, day);
  const valued = here && worth?.find((r) => r.id === here.id);
  return {
    cut,
    store,
    own: person.store,
    stores: storeChoices(db),
    rows: shown,
    more: cutRows.length - shown.length,
    counts: recordOf(SHELF_CUTS, (c) => all.filter((r) => isIn(c, r, day)).length),
    worth: worth?.map((r) => ({ id: r.id, worth: r.worth, currency: r.currency })) ?? null,
    slip,
    money: slip && valued ? readSlipMoney(db, valued, slip, day) : null,
    may: {
      moves: may(person.roles, "move stock"),
      uses: may(person.roles, "use at jobs"),
      registers: may(person.roles, "register goods"),
      asks: may(person.roles, "ask for refills"),
      agreements: may(person.roles, "see agreements"),
      orders: may(person.roles, "see orders"),
      dock: may(person.roles, "see dock"),
    },
    countsIn: may(person.roles, "count in"),
  };
});

export const action = actions("see consigned", shelfActs);

const keyOf = (r: ShelfRow) => String(r.id);
type Worth = { id: number; worth: number | null; currency: string };

function columnsOf(w: ReturnType<typeof useWriting>, worth: readonly Worth[] | null): SheetColumn<ShelfRow>[] {
  const of = new Map(worth?.map((x) => [x.id, x]));
  return [
    {
      key: "item",
      head: "Item",
      gives: true,
      cell: (r) => <Named name={r.name} code={[r.code, r.bins || r.storeName].join(" · ")} />,
    },
    {
      key: "here",
      head: "Theirs here",
      keep: 3,
      align: "right",
      cell: (r) => (
        <>
          <b className={`figure ${r.here < r.least ? "text-signal" : ""}`}>{w.quantity(r.here)}</b>{" "}
          <span className="text-2xs text-ink-3">{r.unit}</span>
        </>
      ),
    },
    {
      key: "age",
      head: "By age, least and most",
      keep: 2,
      cell: (r) => (
        <span className="block w-[230px]">
          <ShelfBar layers={r.layers} least={r.least} most={r.most} />
        </span>
      ),
    },
    {
      key: "used",
      head: "Used, 30 days",
      keep: 1,
      align: "right",
      cell: (r) => <span className="figure">{w.quantity(r.used30)}</span>,
    },
    ...(worth
      ? [
          {
            key: "worth",
            head: "Worth",
            keep: 0,
            align: "right",
            cell: (r: ShelfRow) => {
              const x = of.get(r.id);
              return (
                <span className="figure">{x && x.worth !== null ? w.amount(x.worth, x.currency) : "no price"}</span>
              );
            },
          } satisfies SheetColumn<ShelfRow>,
        ]
      : []),
  ];
}

/** Suppliers' goods on our shelves: what lies there by age, what becomes ours when, and what may be done about it. */
export default function ConsignedShelves() {
  const data = useLoaderData<typeof loader>();
  const { rows, cut, counts, worth, slip, money, may: mine } = data;
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const [at, setAt] = useAt(slip ? String(slip.id) : null, true);
  const row = rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null;
  // Somebody of one store uses and moves nothing in another.
  const here = data.own === null || data.own === row?.store;
  const rights = { ...mine, uses: mine.uses && here, moves: mine.moves && here };
  const use = useRef<(() => void) | null>(null);
  const way = useRef<(() => void) | null>(null);
  useKeys([
    ...(rights.uses && row ? [{ key: "u", label: "use it", run: () => use.current?.() }] : []),
    ...(row ? [{ key: "y", label: "what is proposed", run: () => way.current?.() }] : []),
  ]);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Consigned shelves" sub="suppliers’ goods on our shelves, theirs until they are used">
            {mine.dock && <DockPages here="consigned" counts={data.countsIn} />}
          </SheetHead>
          <div className="flex flex-wrap items-center gap-3 px-4.5 pb-2.5">
            <Cuts
              label="Which shelves"
              value={cut}
              onChange={(v) => setSearch(withParts({ cut: v, at: null }))}
              options={[
                { value: "all", label: "All", count: counts.all },
                { value: "below", label: "Below the least", count: counts.below },
                { value: "week", label: "Ours within a week", count: counts.week },
                { value: "unused", label: "Not used for 60 days", count: counts.unused },
              ]}
            />
            {data.stores.length > 0 && (
              <label className="text-xs text-ink-2">
                Store{" "}
                <select
                  className="border-b border-ink-3 bg-transparent"
                  value={data.store ?? ""}
                  onChange={(e) => setSearch(withParts({ store: e.target.value || null, at: null }))}
                >
                  <option value="">all</option>
                  {data.stores.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </div>
          <Sheet
            label="Suppliers’ goods"
            columns={columnsOf(w, worth)}
            rows={rows}
            rowHeight={46}
            keyOf={keyOf}
            at={row ? keyOf(row) : null}
            onAt={setAt}
            group={{ of: (r) => String(r.agreement), heading: (r) => <OfAgreement row={r} opens={mine.agreements} /> }}
            empty={<NothingHere cut={cut} writes={mine.asks} />}
          />
        </>
      }
      slip={
        row && slip?.id === row.id ? (
          <ShelfSlipView key={slip.id} row={row} slip={slip} money={money} may={rights} openers={{ use, way }} />
        ) : (
          <p className="text-ink-3">{row ? "…" : "Nothing is chosen."}</p>
        )
      }
      tally={<ShelvesTally data={data} row={row} />}
    />
  );
}

function OfAgreement({ row: r, opens }: { row: ShelfRow; opens: boolean }) {
  return (
    <>
      {opens ? (
        <Link className="underline" to={`/agreements/${r.agreement}`}>
          {r.supplierName}
        </Link>
      ) : (
        r.supplierName
      )}
      , {r.storeName}: {passesWords(r.oursAfter)}
    </>
  );
}

function NothingHere({ cut, writes }: { cut: ShelfCut; writes: boolean }) {
  return cut === "all" ? (
    <Empty title="No supplier has goods on our shelves">
      {writes ? (
        <>
          An agreement says whose goods lie where, what they cost when they are used, and when they become ours.{" "}
          <Link className="underline" to="/agreements">
            Write one
          </Link>
          .
        </>
      ) : (
        "What is registered under an agreement stands here by its age."
      )}
    </Empty>
  ) : (
    <Empty title="None of them">Nothing here is so at the moment.</Empty>
  );
}

type Data = ReturnType<typeof useLoaderData<typeof loader>>;

function ShelvesTally({ data, row }: { data: Data; row: ShelfRow | null }) {
  const w = useWriting();
  const { rows, more, counts, worth, may: mine } = data;
  const byCurrency = new Map<string, number>();
  for (const x of worth ?? [])
    if (x.worth !== null) byCurrency.set(x.currency, (byCurrency.get(x.currency) ?? 0) + x.worth);
  const of = row ? `?agreement=${row.agreement}` : "";
  return (
    <TallyLine
      keys={[
        ...(mine.uses && row ? [["u", "use"] satisfies [string, string]] : []),
        ...(row ? [["y", "proposed"] satisfies [string, string]] : []),
      ]}
      act={
        <>
          {mine.agreements && <ButtonLink to={`/statements${of}`}>Statements</ButtonLink>}
          {mine.asks && <ButtonLink to="/refills">Refills</ButtonLink>}
          {mine.registers && row && (
            <ButtonLink look="main" to={`/consigned/register${of}`}>
              Register a delivery
            </ButtonLink>
          )}
        </>
      }
    >
      <span>
        <b>{rows.length}</b> {rows.length === 1 ? "item" : "items"} theirs{more > 0 && `, and ${more} more`}
      </span>
      {[...byCurrency].map(([currency, minor]) => (
        <span key={currency}>
          worth <b className="figure">{w.amount(minor, currency)}</b>
        </span>
      ))}
      {counts.week > 0 && <span className="font-semibold text-signal">{counts.week} become ours this week</span>}
    </TallyLine>
  );
}
