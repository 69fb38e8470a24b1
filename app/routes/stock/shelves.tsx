import { useRef } from "react";
import { useLoaderData, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { aroundPlace, type Place, readShelves } from "../../../server/queries/stock/shelves";
import { ScanBar } from "../../parts/scan-bar";
import { StoreLinks } from "../../parts/store-links";
import { ButtonLink } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt, withParts } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { DockPages } from "../receiving/dock-pages";
import { placeActs } from "./place-acts";
import { PlaceSlip } from "./place-slip";

const keyOf = (p: Pick<Place, "item" | "bin" | "lot" | "owner">) => `${p.item}/${p.lot ?? 0}/${p.owner ?? 0}/${p.bin}`;

export const loader = page("see shelves", ({ db, person, url }) => {
  const at = workStore(db, person, url);
  const find = (url.searchParams.get("find") ?? "").trim().slice(0, 60);
  const { places, more } = readShelves(db, at.store, find);
  const named = url.searchParams.get("at");
  const here = places.find((p) => keyOf(p) === named) ?? places[0] ?? null;
  return {
    ...at,
    find,
    places,
    more,
    here: here && { key: keyOf(here), around: aroundPlace(db, { ...here, store: at.store }) },
    moves: may(person.roles, "move stock"),
    writesOff: may(person.roles, "write off"),
    labels: may(person.roles, "print labels"),
    keepsBins: may(person.roles, "keep bins"),
    counts: may(person.roles, "count in"),
  };
});

export const action = actions("move stock", placeActs);

const columnsOf = (w: ReturnType<typeof useWriting>): SheetColumn<Place>[] => [
  {
    key: "goods",
    head: "Goods",
    gives: true,
    cell: (p) => <Named name={p.name} code={p.ownerName ? `${p.code} · ${p.ownerName}’s` : p.code} />,
  },
  { key: "lot", head: "Lot", keep: 1, cell: (p) => <span className="font-mono text-xs">{p.lotCode ?? ""}</span> },
  {
    key: "expires",
    head: "Keeps until",
    keep: 0,
    cell: (p) =>
      p.expires && (
        <span className={p.expires < w.today ? "font-semibold text-signal" : ""}>
          {w.day(p.expires, false)}
          {p.expires < w.today && ", expired"}
        </span>
      ),
  },
  {
    key: "quantity",
    head: "Here",
    keep: 3,
    align: "right",
    cell: (p) => (
      <>
        <span className="figure">{w.quantity(p.quantity)}</span> <span className="text-2xs text-ink-3">{p.unit}</span>
      </>
    ),
  },
];

/** What lies where in a store, bin by bin as one walks; and what may be done with it. */
export default function Shelves() {
  const { store, name, stores, find, places, more, here, moves, writesOff, labels, keepsBins, counts } =
    useLoaderData<typeof loader>();
  const w = useWriting();
  const [, setSearch] = useSearchParams();
  const scan = useRef<HTMLInputElement>(null);
  const [at, setAt] = useAt(here?.key ?? null, true);
  const place = places.find((p) => keyOf(p) === at) ?? places[0] ?? null;
  const move = useRef<(() => void) | null>(null);
  const issue = useRef<(() => void) | null>(null);
  useKeys([
    { key: "c", label: "scan or type a code or bin", run: () => scan.current?.focus() },
    ...(moves && place
      ? [
          { key: "m", label: "move it", run: () => move.current?.() },
          { key: "i", label: "issue it", run: () => issue.current?.() },
        ]
      : []),
  ]);
  const show = (code: string | null) => setSearch(withParts({ find: code || null, at: null }), { replace: true });
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Shelves" sub={`what lies where in ${name}`}>
            <DockPages here="shelves" counts={counts} />
          </SheetHead>
          <div className="flex flex-col gap-2 px-4.5 pb-2.5">
            <StoreLinks store={store} stores={stores} />
            <ScanBar
              label="Scan or type goods, a lot or a bin"
              placeholder="scan or type goods, a lot or a bin"
              scan={scan}
              className="h-12"
              onCode={(code) => show(code.trim())}
            >
              {find && (
                <button type="button" className="text-xs whitespace-nowrap underline" onClick={() => show(null)}>
                  {find}: show all again
                </button>
              )}
            </ScanBar>
          </div>
          <Sheet
            label="What lies where"
            columns={columnsOf(w)}
            rows={places}
            keyOf={keyOf}
            at={place ? keyOf(place) : null}
            onAt={setAt}
            group={{
              of: (p) => p.bin,
              heading: (p) => (p.bin ? <span className="font-mono">{p.bin}</span> : <>On the dock, not stowed</>),
            }}
            empty={
              <Empty title={find ? `Nothing here is called ${find}` : "Nothing lies here"}>
                {find ? "Scan again, or look in another store." : "What is counted in stands here with its bin."}
              </Empty>
            }
          />
        </>
      }
      slip={
        place && here?.key === keyOf(place) ? (
          <PlaceSlip
            key={`${here.key} ${place.quantity}`}
            place={place}
            store={store}
            around={here.around}
            moves={moves}
            writesOff={writesOff}
            labels={labels}
            openers={{ move, issue }}
          />
        ) : (
          <p className="text-ink-3">{place ? "…" : "Nothing is chosen."}</p>
        )
      }
      tally={
        <TallyLine
          keys={
            moves && place
              ? [
                  ["c", "code"],
                  ["m", "move"],
                  ["i", "issue"],
                ]
              : [["c", "code"]]
          }
          act={
            <>
              <ButtonLink to={`/stock-papers?store=${store}`}>Papers</ButtonLink>
              {keepsBins && <ButtonLink to={`/bins?store=${store}`}>Bins</ButtonLink>}
            </>
          }
        >
          <span>
            <b>{places.length}</b> {places.length === 1 ? "place" : "places"}
            {more && ", and more: narrow it by a code or a bin"}
          </span>
        </TallyLine>
      }
    />
  );
}
