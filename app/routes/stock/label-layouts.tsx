import { useState } from "react";
import { useLoaderData } from "react-router";
import { readLabelLayouts } from "../../../server/queries/stock/label-layouts";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { labelActs } from "./label-acts";
import { KIND_NAMES, LabelForm } from "./label-form";
import { NEW_LABEL } from "./label-texts";

export const loader = page("keep labels", ({ db }) => ({ rows: readLabelLayouts(db) }));

export const action = actions("keep labels", labelActs);

type Row = ReturnType<typeof readLabelLayouts>[number];
const keyOf = (r: Row) => String(r.id);

const COLUMNS: SheetColumn<Row>[] = [
  { key: "name", head: "Layout", cell: (r) => <Named name={r.name} code={`for ${KIND_NAMES[r.layout.kind]}`} /> },
  {
    key: "size",
    head: "Millimetres",
    keep: 2,
    align: "right",
    cell: (r) => `${r.layout.width / 10} × ${r.layout.height / 10}`,
  },
  { key: "code", head: "Scanned", keep: 1, cell: (r) => r.layout.code },
  {
    key: "on",
    head: "Printed on",
    keep: 0,
    cell: (r) => (r.layout.sheet ? `sheets of ${r.layout.sheet.columns} × ${r.layout.sheet.rows}` : "a roll"),
  },
];

/** The house's own layouts of labels; the one that is chosen is changed beside a picture of how it prints. */
export default function LabelLayouts() {
  const { rows } = useLoaderData<typeof loader>();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const [making, setMaking] = useState(false);
  const here = making ? null : (rows.find((r) => keyOf(r) === at) ?? rows[0] ?? null);
  useKeys([{ key: "+", label: "another layout", run: () => setMaking(true) }]);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Layouts of labels" sub="for items, goods of a lot, bins and loads" />
          <Sheet
            label="Layouts"
            columns={COLUMNS}
            rows={rows}
            keyOf={keyOf}
            at={here ? keyOf(here) : null}
            onAt={(key) => {
              setMaking(false);
              setAt(key);
            }}
            empty={<Empty title="No layout is kept">Make one: its size, what stands on it, and what is scanned.</Empty>}
          />
        </>
      }
      slip={
        <LabelForm
          key={here ? `${here.id} ${here.version}` : `new ${rows.length}`}
          id={here?.id ?? null}
          version={here?.version ?? 0}
          name={here?.name ?? ""}
          layout={here?.layout ?? NEW_LABEL}
        />
      }
      tally={
        <TallyLine keys={[["+", "another"]]} act={<Button onClick={() => setMaking(true)}>Another layout</Button>}>
          <b>{rows.length}</b> {rows.length === 1 ? "layout" : "layouts"}
        </TallyLine>
      }
    />
  );
}
