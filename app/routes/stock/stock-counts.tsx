import { useRef } from "react";
import { Link, useLoaderData, useNavigate } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readCategories } from "../../../server/queries/signoff/choices";
import { readStockCounts, type StockCountHead } from "../../../server/queries/stock/stock-counts";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { workStore } from "../../web/work-store";
import { DockPages } from "../receiving/dock-pages";
import { type StartWord, startActs } from "./count-acts";

export const loader = page("see shelves", ({ db, person, url }) => ({
  ...workStore(db, person, url),
  own: person.store,
  rows: readStockCounts(db, person.store),
  categories: readCategories(db),
  starts: may(person.roles, "count stock"),
  judges: may(person.roles, "judge counts"),
  counts: may(person.roles, "count in"),
}));

export const action = actions("count stock", startActs);

const keyOf = (r: StockCountHead) => String(r.id);

/** Counts of what lies in the stores: those that are open first, and what became of the others. */
export default function StockCounts() {
  const { rows, own, store, name, stores, categories, starts, judges, counts } = useLoaderData<typeof loader>();
  const w = useWriting();
  const navigate = useNavigate();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const open = useRef<(() => void) | null>(null);
  useKeys(starts ? [{ key: "+", label: "another count", run: () => open.current?.() }] : []);
  const columns: SheetColumn<StockCountHead>[] = [
    {
      key: "count",
      head: "Count",
      cell: (r) => (
        <Link to={`/stock-counts/${r.id}`} className="hover:underline">
          <Named name={r.what} code={`${r.number} · ${r.storeName}`} />
        </Link>
      ),
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={r.state} /> },
    {
      key: "done",
      head: "Counted",
      keep: 2,
      align: "right",
      cell: (r) => (
        <span className="figure">
          {r.counted} of {r.lines}
        </span>
      ),
    },
    {
      key: "differ",
      head: "Differ",
      keep: 1,
      align: "right",
      // How many differ is said to whoever counts only once it is booked.
      cell: (r) =>
        r.state === "Booked" || (r.state === "Counted" && judges) ? r.differ : <span className="text-ink-3">·</span>,
    },
    { key: "by", head: "Begun", keep: 0, align: "right", cell: (r) => `${r.person}, ${w.day(r.day)}` },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Stock counts" sub={own === null ? "of all stores" : `of ${name}`}>
            <DockPages here="counts" counts={counts} />
          </SheetHead>
          <Sheet
            label="Stock counts"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            onOpen={(r) => navigate(`/stock-counts/${r.id}`)}
            empty={
              <Empty title="Nothing has been counted yet">
                A count lists what should lie in a range of bins, is counted blind, and booked once its differences are
                judged.
              </Empty>
            }
          />
        </>
      }
      slip={
        starts ? (
          <SlipPart title="Another count">
            <SlipForm<StartWord> does="start" fields={{}} label="Make a count list" send="Make the list" opener={open}>
              <SelectField
                label="Store"
                name="store"
                defaultValue={String(store)}
                options={(own === null ? stores : [{ id: store, name }]).map((s) => ({
                  value: String(s.id),
                  label: s.name,
                }))}
              />
              <TextField label="From bin" name="from" maxLength={20} placeholder="the first" />
              <TextField label="To bin" name="to" maxLength={20} placeholder="the last" />
              <SelectField
                label="Group of items"
                name="category"
                options={[{ value: "", label: "all" }, ...categories.map((c) => ({ value: c, label: c }))]}
              />
              <label className="flex gap-2">
                <input type="checkbox" name="blind" defaultChecked className="accent-harbour" />
                <span>Blind: who counts does not see what the books say</span>
              </label>
            </SlipForm>
          </SlipPart>
        ) : undefined
      }
      tally={
        <TallyLine
          keys={starts ? [["+", "another count"]] : []}
          act={
            starts && (
              <Button look="main" onClick={() => open.current?.()}>
                Count something
              </Button>
            )
          }
        >
          <b>{count(rows.filter((r) => r.state === "Open" || r.state === "Counted").length, "count")}</b> not booked yet
        </TallyLine>
      }
    />
  );
}
