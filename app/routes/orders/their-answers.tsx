import { useState } from "react";
import { Link } from "react-router";
import { daysBetween, parseDay } from "../../../core/calendar/day";
import type { OrderSheet } from "../../../server/queries/orders/order";
import type { SaidBefore } from "../../../server/queries/suppliers/answers";
import { partsWords } from "../../parts/said-words";
import { SlipForm } from "../../parts/slip-form";
import { DateField } from "../../ui/day-entry";
import { TextField } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { OrderWord } from "./order-acts";

type Line = OrderSheet["lines"][number];
const STATES: Record<SaidBefore["state"], string> = {
  waits: "to be decided",
  taken: "taken",
  refused: "refused",
  countered: "we proposed something else",
  replaced: "said anew since",
};

/** What the supplier said of an order and of the selected line, and what was heard written down. */
export function TheirAnswers({
  sheet: { head, lines },
  line,
  answers: { said, revision },
  mayWrite,
}: {
  sheet: OrderSheet;
  line: Line | undefined;
  answers: { said: readonly SaidBefore[]; revision: number };
  mayWrite: boolean;
}) {
  const w = useWriting();
  const waits = said.filter((s) => s.state === "waits").length;
  const ofLine = line ? said.filter((s) => s.line === line.id) : [];
  const placed = parseDay((head.placed ?? "").slice(0, 10));
  const silent = placed === null ? 0 : daysBetween(placed, w.today);
  const open =
    head.stage === "placed" && lines.some((l) => l.kind !== "charge" && l.received + l.closedShort < l.quantity);
  if (placed === null || head.kind === "blanket") return null;
  return (
    <SlipPart title="What they answered">
      {said.length === 0 ? (
        <p className="text-ink-2">
          {silent === 0
            ? "Nothing yet; it went out today."
            : `Nothing yet, ${silent === 1 ? "1 day" : `${silent} days`} after it went out.`}
        </p>
      ) : (
        waits > 0 && (
          <p className="mb-1.5 font-semibold text-signal">
            <Link className="underline" to={`/answers?order=${head.id}`}>
              {waits === 1 ? "1 line waits" : `${waits} lines wait`} to be decided
            </Link>
          </p>
        )
      )}
      {ofLine.length > 0 && (
        <ul className="border border-rule bg-sheet text-xs">
          {ofLine.map((s) => (
            <li key={s.id} className="border-b border-rule-2 px-2.5 py-1.5 last:border-0">
              <b>{[s.said.parts ? partsWords(s.said.parts, w, s.unit) : "as ordered", ...others(s, w)].join(", ")}</b>
              <span className="block text-ink-3">
                {[w.day(s.saidOn, false), s.way, s.saidBy].filter(Boolean).join(", ")}
                {s.file && (
                  <>
                    {", "}
                    <a className="underline" href={`/orders/${head.id}/files/${s.file}`}>
                      {s.fileName}
                    </a>
                  </>
                )}
                : {STATES[s.state]}
                {s.decidedBy && ` by ${s.decidedBy}`}
                {s.why && `, “${s.why}”`}
                {s.counter?.parts &&
                  `; ${s.state === "taken" ? "of it" : "we propose"} ${partsWords(s.counter.parts, w, s.unit)}`}
              </span>
            </li>
          ))}
        </ul>
      )}
      {mayWrite && open && revision > 0 && <WriteDown line={line} revision={revision} />}
    </SlipPart>
  );
}

const others = ({ said }: SaidBefore, w: ReturnType<typeof useWriting>): string[] => [
  ...(said.price === null ? [] : [`at ${w.price(said.price)}`]),
  ...(said.instead ? [`instead: ${said.instead}`] : []),
  ...(said.charge ? [`a charge of ${w.price(said.charge.price)} for ${said.charge.words}`] : []),
  ...(said.remark ? [`“${said.remark}”`] : []),
];

const WAYS = ["phone", "e-mail", "in person"];

/** What was said by telephone, by mail or face to face: of all of the order, or of the selected line. */
function WriteDown({ line, revision }: { line: Line | undefined; revision: number }) {
  const w = useWriting();
  const [of, setOf] = useState("all");
  const [cannot, setCannot] = useState(false);
  const [parts, setParts] = useState(1);
  const open = line !== undefined && line.kind !== "charge" && line.received + line.closedShort < line.quantity;
  return (
    <SlipForm<OrderWord>
      does="said"
      fields={{ revision, line: line?.id ?? "" }}
      label="Write down what they said…"
      send="Keep the answer"
    >
      <div className="grid grid-cols-2 gap-2">
        <SelectField label="How" name="way" options={WAYS.map((value) => ({ value, label: value }))} />
        <DateField label="When" name="saidOn" defaultValue={w.today} max={w.today} />
      </div>
      <TextField label="Who said it" name="saidBy" maxLength={80} />
      <SelectField
        label="What"
        name="of"
        value={of}
        onChange={(e) => setOf(e.target.value)}
        options={[
          { value: "all", label: "all as ordered" },
          ...(open ? [{ value: "line", label: `line ${line.position}: something differs` }] : []),
        ]}
      />
      {of === "line" && open && (
        <>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              name="cannot"
              value="yes"
              className="accent-harbour"
              checked={cannot}
              onChange={(e) => setCannot(e.target.checked)}
            />
            they cannot supply it
          </label>
          {!cannot && (
            <>
              {Array.from({ length: parts }, (_, i) => (
                <div key={`part ${i + 1}`} className="grid grid-cols-2 gap-2">
                  <TextField
                    label={i === 0 ? `How many (${line.unit})` : "and then"}
                    name={`quantity.${i}`}
                    inputMode="decimal"
                    placeholder={parts === 1 ? w.quantity(line.quantity - line.received - line.closedShort) : undefined}
                  />
                  <DateField label="On" name={`day.${i}`} />
                </div>
              ))}
              {parts < 6 && (
                <button type="button" className="self-start text-xs underline" onClick={() => setParts((n) => n + 1)}>
                  Another part
                </button>
              )}
              <TextField label="Price, if another" name="price" inputMode="decimal" />
              <TextField label="Another item, if so" name="instead" maxLength={120} />
              <div className="grid grid-cols-2 gap-2">
                <TextField label="A charge, if they add one" name="charge" inputMode="decimal" maxLength={20} />
                <TextField label="What it is for" name="chargeFor" maxLength={120} />
              </div>
            </>
          )}
        </>
      )}
      <TextField label="A remark" name="remark" maxLength={1000} />
      <FileEntry
        label="Their letter, or a note of the call"
        name="file"
        accept=".pdf,.png,.jpg,.jpeg,.xlsx,.docx,.csv,.txt"
      />
    </SlipForm>
  );
}
