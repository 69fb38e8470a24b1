import { useState } from "react";
import { Link, useLoaderData, useSearchParams } from "react-router";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { readLabelLayouts } from "../../../server/queries/stock/label-layouts";
import { type LabelRow, readLabels } from "../../../server/queries/stock/labels";
import { PaperView } from "../../parts/paper-view";
import { usePreview } from "../../parts/use-preview";
import { Button, ButtonLink } from "../../ui/button";
import { CellEntry } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipPart } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { ProgressBar } from "../../ui/progress-bar";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt, withParts } from "../../ui/use-at";
import { atOf, notFound, page } from "../../web/page";
import { kindsOf, labelSource, mayPrint } from "./label-source";
import { usePrinting } from "./use-printing";

export const loader = page("print labels", ({ db, person, url }) => {
  const source = labelSource(url.searchParams);
  if (!source) throw notFound("Say what the labels are of: a receipt, an order, an item or bins.");
  mayPrint(db, person, source);
  const layouts = readLabelLayouts(db).filter((l) => kindsOf(source).includes(l.layout.kind));
  const usual =
    layouts.find((l) => l.layout.kind === (source.of === "receipt" ? "lot" : kindsOf(source)[0])) ?? layouts[0];
  const layout = layouts.find((l) => l.id === atOf(url, "layout")) ?? usual ?? null;
  return {
    of: source.of,
    layouts: layouts.map(({ id, name, layout: { kind, sheet } }) => ({ id, name, kind, sheet: sheet !== null })),
    layout: layout && {
      id: layout.id,
      kind: layout.layout.kind,
      each: (layout.layout.sheet?.columns ?? 0) * (layout.layout.sheet?.rows ?? 0),
    },
    rows: layout ? readLabels(db, source, layout.layout.kind) : [],
    keeps: may(person.roles, "keep labels"),
  };
});

const keyOf = (r: LabelRow) => r.key;
const HOW_MANY: Record<string, string> = {
  receipt: "as many as came",
  order: "as many as were ordered",
  item: "as many as you say",
  bins: "one of each",
};

/** Labels of goods, bins or loads: which, how many, in which layout; shown as they print. */
export default function Labels() {
  const { of, layouts, layout, rows, keeps } = useLoaderData<typeof loader>();
  const [search, setSearch] = useSearchParams();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [skip, setSkip] = useState("0");
  const printing = usePrinting();
  const copies = Object.fromEntries(rows.map((r) => [r.key, typed[r.key] ?? String(r.copies)]));
  const all = Object.values(copies).reduce((a, n) => a + (/^\d{1,5}$/.test(n.trim()) ? Number(n) : 0), 0);
  const wrong = Object.values(copies).some((n) => !/^\d{0,5}$/.test(n.trim()));
  const source = sourceOf(search);
  const { pdf: shown, leftOut } = usePreview("/labels/print", {
    source,
    layout: layout?.id ?? "",
    copies: {},
    look: true,
  });
  const print = () => {
    if (!layout || wrong || all === 0) return;
    const sent = Object.fromEntries(Object.entries(copies).map(([k, n]) => [k, n.trim() || "0"]));
    void printing.print({ source, layout: layout.id, copies: sent, skip });
  };
  useKeys([{ key: "p", label: "draw the labels", run: print }]);
  const columns = columnsOf(of, copies, (key, text) => setTyped({ ...typed, [key]: text }));
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Labels" sub={HOW_MANY[of]}>
            {keeps && (
              <Link className="text-xs underline" to="/label-layouts">
                Layouts
              </Link>
            )}
          </SheetHead>
          <Sheet
            label="Labels"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            rowHeight={44}
            stateOf={(r) => copies[r.key]}
            empty={
              <Empty title="There is nothing to label">
                {layouts.length === 0 ? "No layout is kept for it yet." : "Nothing of it is left, or it has no goods."}
              </Empty>
            }
          />
        </>
      }
      slip={
        <>
          <SelectField
            label="Layout"
            value={String(layout?.id ?? "")}
            onChange={(e) => setSearch(withParts({ layout: e.target.value, at: null }), { replace: true })}
            options={layouts.map((l) => ({ value: String(l.id), label: l.name }))}
          />
          {layout && layout.each > 0 && (
            <SelectField
              label="Places of the first sheet that are used"
              value={skip}
              onChange={(e) => setSkip(e.target.value)}
              options={Array.from({ length: layout.each }, (_, i) => ({
                value: String(i),
                label: i === 0 ? "none" : String(i),
              }))}
            />
          )}
          {rows.length > 0 && (
            <SlipPart title="The first of them">
              <PaperView pdf={shown} label="The first label, as it prints" />
              {leftOut.length > 0 && <p className="text-signal">Not all of it has room: change the layout.</p>}
            </SlipPart>
          )}
          <PrintingPart printing={printing} />
        </>
      }
      tally={
        <TallyLine
          trouble={printing.says ?? (wrong ? "How many is a whole number." : null)}
          keys={[["p", "draw"]]}
          act={
            <>
              {keeps && <ButtonLink to="/label-layouts">Layouts</ButtonLink>}
              <Button
                look="main"
                hint="P"
                className="max-lg:min-h-12"
                disabled={!layout || wrong || all === 0 || printing.progress !== null}
                onClick={print}
              >
                {printing.progress ? "Drawing…" : `Draw ${count(all, "label")}`}
              </Button>
            </>
          }
        >
          <b>{count(all, "label")}</b>
        </TallyLine>
      }
    />
  );
}

const columnsOf = (
  of: string,
  copies: Readonly<Record<string, string>>,
  onCopies: (key: string, text: string) => void,
): SheetColumn<LabelRow>[] => [
  { key: "what", head: "Label", gives: true, cell: (r) => <Named name={r.title} code={r.about} /> },
  ...(of === "receipt" || of === "order"
    ? ([
        { key: "lot", head: "Keeps until", keep: 0, cell: (r) => r.goods.texts.expires },
        { key: "much", head: "How much", keep: 1, align: "right", cell: (r) => r.goods.texts.quantity },
      ] satisfies SheetColumn<LabelRow>[])
    : []),
  {
    key: "copies",
    head: "Labels",
    keep: 3,
    align: "right",
    cell: (r) => (
      <CellEntry
        label={`Labels of ${r.title}${r.goods.lot ? `, lot ${r.goods.lot}` : ""}`}
        inputMode="numeric"
        maxLength={5}
        className="w-20"
        value={copies[r.key] ?? ""}
        onChange={(e) => onCopies(r.key, e.target.value)}
      />
    ),
  },
];

/** How far the labels are, and the file once it is drawn. */
function PrintingPart({ printing }: { printing: ReturnType<typeof usePrinting> }) {
  return (
    <>
      {printing.progress && (
        <div className="flex flex-col gap-2">
          <ProgressBar {...printing.progress} label="Labels drawn" />
          <p className="text-ink-2">
            {printing.progress.done} of {printing.progress.of} drawn{" "}
            <button type="button" className="ml-2 underline" onClick={printing.leave}>
              stop
            </button>
          </p>
        </div>
      )}
      {printing.file && (
        <p role="status">
          <a className="font-semibold underline" href={printing.file} target="_blank" rel="noreferrer">
            Open the labels to print them
          </a>
          {" · "}
          <a className="underline" href={printing.file} download="labels.pdf">
            keep the file
          </a>
        </p>
      )}
    </>
  );
}

/** The part of the address that says of what labels are. */
const sourceOf = (search: URLSearchParams): string => {
  const of = new URLSearchParams(search);
  for (const name of ["layout", "at"]) of.delete(name);
  return of.toString();
};
