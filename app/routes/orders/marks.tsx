import { useLoaderData } from "react-router";
import { moneyText } from "../../../core/numbers/money";
import { MARK_EVENTS } from "../../../core/orders/marks";
import { count } from "../../../core/text";
import { endMark, keepMark } from "../../../server/acts/orders/marks";
import { supplierChoices } from "../../../server/queries/choices";
import { type Mark, readMarks } from "../../../server/queries/orders/marks";
import { SlipForm } from "../../parts/slip-form";
import { TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Sheet, type SheetColumn } from "../../ui/sheet";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, type PageActs, page } from "../../web/page";
import { OrderPages } from "./order-pages";

export const loader = page("keep marks", ({ db }) => ({
  marks: readMarks(db),
  suppliers: supplierChoices(db),
}));

const markActs = {
  keep: (desk, input) => keepMark(desk, { ...input, mark: input.mark || undefined }),
  end: endMark,
} satisfies PageActs;
type MarkWord = keyof typeof markActs;
export const action = actions("keep marks", markActs);

const WORDS: Record<string, string> = {
  placed: "an order is placed",
  confirmed: "the supplier confirms it",
  "part in": "a part of it is in",
  overdue: "a line of it is overdue",
  "date passed": "it was not accepted by its day",
};

/** Marks of the company's own, and when they are put by themselves. */
export default function Marks() {
  const { marks, suppliers } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(marks[0] ? String(marks[0].id) : "new");
  const here = marks.find((m) => String(m.id) === at) ?? null;
  const rule = (m: Mark) =>
    m.event
      ? `when ${WORDS[m.event]}${m.least ? `, from ${w.amount(m.least)}` : ""}${m.supplierName ? `, at ${m.supplierName}` : ""}`
      : "by hand";
  const columns: SheetColumn<Mark>[] = [
    { key: "name", head: "Mark", cell: (m) => <b className="text-harbour">{m.name}</b> },
    { key: "rule", head: "Put", cell: rule },
    { key: "on", head: "On orders", align: "right", cell: (m) => <span className="figure">{m.on}</span> },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Marks" sub="follow-up labels of our own, on orders">
            <OrderPages here="all" />
          </SheetHead>
          <Sheet
            label="Marks"
            columns={columns}
            rows={marks}
            keyOf={(m) => String(m.id)}
            at={here ? String(here.id) : null}
            onAt={setAt}
            empty={<Empty title="No mark yet">Give the first one a name, and say when it is put.</Empty>}
          />
        </>
      }
      slip={
        <>
          <SlipHead title={here ? here.name : "A new mark"}>
            {here && (
              <p className="mt-1">
                <button type="button" className="text-xs underline" onClick={() => setAt("new")}>
                  Make another one
                </button>
              </p>
            )}
          </SlipHead>
          <RecordForm<MarkWord>
            key={here?.id ?? `new ${marks.length}`}
            does="keep"
            fields={{ mark: here?.id ?? "" }}
            send={here ? "Keep" : "Make the mark"}
            className="flex flex-col gap-3"
          >
            {(p) => (
              <>
                <TextField
                  label="Name"
                  name="name"
                  defaultValue={here?.name ?? ""}
                  maxLength={40}
                  problem={p("name")}
                />
                <SelectField
                  label="Put by itself when"
                  name="event"
                  defaultValue={here?.event ?? ""}
                  options={[
                    { value: "", label: "never: by hand alone" },
                    ...MARK_EVENTS.map((e) => ({ value: e, label: WORDS[e]! })),
                  ]}
                  problem={p("event")}
                />
                <TextField
                  label={`On orders from, in ${w.home}`}
                  name="least"
                  defaultValue={here?.least ? moneyText({ minor: here.least, currency: w.home }) : ""}
                  inputMode="decimal"
                  maxLength={20}
                  hint="net; empty for every order"
                  problem={p("least")}
                />
                <SelectField
                  label="At"
                  name="supplier"
                  defaultValue={here?.supplier ?? ""}
                  options={[
                    { value: "", label: "every supplier" },
                    ...suppliers.map((s) => ({ value: s.id, label: s.name })),
                  ]}
                  problem={p("supplier")}
                />
              </>
            )}
          </RecordForm>
          {here && (
            <SlipForm<MarkWord> does="end" fields={{ mark: here.id }} label="End this mark…" send="End it">
              <p>It is not put any more. {here.on > 0 ? `${count(here.on, "order")} keep it.` : ""}</p>
            </SlipForm>
          )}
        </>
      }
      tally={
        <TallyLine keys={[["arrowdown", "move"]]}>
          <span>{count(marks.length, "mark")}</span>
        </TallyLine>
      }
    />
  );
}
