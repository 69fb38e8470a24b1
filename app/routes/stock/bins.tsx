import { useRef } from "react";
import { useLoaderData } from "react-router";
import { alongTheWalk } from "../../../core/stock/bins";
import { count } from "../../../core/text";
import { storeStows } from "../../../server/queries/choices";
import { type BinRow, readBins } from "../../../server/queries/stock/bins";
import { SlipForm } from "../../parts/slip-form";
import { StoreLinks } from "../../parts/store-links";
import { ButtonLink } from "../../ui/button";
import { TextField } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { type BinWord, binActs } from "./bin-acts";

export const loader = page("keep bins", ({ db, person, url }) => {
  const at = workStore(db, person, url);
  return { ...at, stows: storeStows(db, at.store), bins: readBins(db, at.store).sort(alongTheWalk) };
});

export const action = actions("keep bins", binActs);

const keyOf = (b: BinRow) => b.code;

const COLUMNS: SheetColumn<BinRow>[] = [
  { key: "bin", head: "Bin", cell: (b) => <Named name={<span className="font-mono">{b.code}</span>} code={b.note} /> },
  {
    key: "walk",
    head: "On the walk",
    keep: 1,
    align: "right",
    cell: (b) => b.walk ?? <span className="text-ink-3">by name</span>,
  },
  {
    key: "items",
    head: "Items in it",
    keep: 3,
    align: "right",
    cell: (b) => b.items || <span className="text-ink-3">·</span>,
  },
  {
    key: "own",
    head: "Own bin of",
    keep: 2,
    align: "right",
    cell: (b) => b.own || <span className="text-ink-3">·</span>,
  },
  { key: "closed", head: "Closed", keep: 0, cell: (b) => <span className="text-signal">{b.closed}</span> },
];

/** The bins of a store, in the order in which one walks by them. */
export default function Bins() {
  const { store, name, stores, stows, bins } = useLoaderData<typeof loader>();
  const [at, setAt] = useAt(bins[0] ? keyOf(bins[0]) : null);
  const here = bins.find((b) => keyOf(b) === at) ?? bins[0] ?? null;
  const add = useRef<(() => void) | null>(null);
  useKeys([{ key: "+", label: "more bins", run: () => add.current?.() }]);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Bins" sub={`of ${name}, as one walks by them`} />
          <div className="px-4.5 pb-2">
            <StoreLinks store={store} stores={stores} />
          </div>
          <Sheet
            label="Bins"
            columns={COLUMNS}
            rows={bins}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={setAt}
            empty={<Empty title="This store has no bins yet">Until it has, everything lies on the dock.</Empty>}
          />
        </>
      }
      slip={
        <>
          <SlipPart title="More bins">
            <SlipForm<BinWord>
              key={bins.length}
              does="add"
              fields={{ store }}
              label="Make bins"
              send="Make"
              opener={add}
            >
              <TextField label="Bin, or the first of a range" name="from" maxLength={20} placeholder="A1" />
              <TextField label="To, for a range" name="to" maxLength={20} placeholder="A24" />
              <TextField label="Note" name="note" maxLength={80} />
            </SlipForm>
          </SlipPart>
          <RecordForm<BinWord>
            key={`${store} ${stows}`}
            does="stowing"
            fields={{ store }}
            send="Keep"
            className="flex flex-col gap-2"
          >
            {() => (
              <label className="flex gap-2">
                <input type="checkbox" name="stows" defaultChecked={stows} className="accent-harbour" />
                <span>What is counted in waits on the dock for the stow list. Else it lies in its bin at once.</span>
              </label>
            )}
          </RecordForm>
          {here && <OneBin key={`${here.code} ${here.walk} ${here.closed} ${here.note}`} bin={here} store={store} />}
        </>
      }
      tally={
        <TallyLine
          keys={[["+", "more bins"]]}
          act={
            <>
              <ButtonLink to={`/labels?bins=${store}`}>Labels</ButtonLink>
              <ButtonLink to={`/shelves?store=${store}`}>Shelves</ButtonLink>
            </>
          }
        >
          <span>
            <b>{count(bins.length, "bin")}</b>,{" "}
            {count(bins.filter((b) => b.items === 0).length, "empty one", "empty ones")}
          </span>
        </TallyLine>
      }
    />
  );
}

function OneBin({ bin: b, store }: { bin: BinRow; store: number }) {
  return (
    <>
      <SlipHead over="bin" title={b.code} />
      <RecordForm<BinWord> does="keep" fields={{ store, bin: b.code }} send="Keep" className="flex flex-col gap-2">
        {(problem) => (
          <>
            <TextField
              label="Its place on the walk; empty: by its name"
              name="walk"
              inputMode="numeric"
              maxLength={7}
              defaultValue={b.walk ?? ""}
              problem={problem("walk")}
            />
            <TextField label="Note" name="note" maxLength={80} defaultValue={b.note} problem={problem("note")} />
            <TextField
              label="Closed: why nothing more is put there"
              name="closed"
              maxLength={80}
              defaultValue={b.closed}
              problem={problem("closed")}
            />
          </>
        )}
      </RecordForm>
      {b.items === 0 && b.own === 0 && (
        <SlipForm<BinWord> does="remove" fields={{ store, bin: b.code }} label="Take this bin away" send="Take it away">
          <p>Nothing lies in it, and no item has it as its own.</p>
        </SlipForm>
      )}
    </>
  );
}
