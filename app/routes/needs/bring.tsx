import { useRef, useState } from "react";
import { Link, useFetcher, useLoaderData } from "react-router";
import { isRecord } from "../../../core/keys";
import { COLUMNS } from "../../../exchange/csv/kinds";
import { MOST_BYTES } from "../../../exchange/csv/limits";
import type { Mapping } from "../../../exchange/csv/match-columns";
import type { Fault } from "../../../exchange/csv/table";
import { type Done, done } from "../../../server/acts/desk";
import { loadInWorker, readInWorker } from "../../../server/jobs/loads";
import { storeName } from "../../../server/queries/choices";
import { Faults } from "../../parts/faults";
import { FileColumns } from "../../parts/file-columns";
import { Button, ButtonLink } from "../../ui/button";
import { Field } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { newKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { act, page, readJson } from "../../web/page";
import { Upload } from "../../web/sent";

const SHOWN = 12;

export const loader = page("plan", ({ db, person }) => ({
  fields: COLUMNS.needs.map((c) => ({ name: c.name, required: c.required, hint: c.hint })),
  store: person.store === null ? null : storeName(db, person.store),
}));

interface Looked {
  columns: string[];
  rows: { line: number; cells: string[] }[];
  count: number;
  mapping: Mapping;
  named: boolean;
}
type Answer =
  | { step: "looked"; looked: Looked }
  | { step: "checked" | "loaded"; rows: number }
  | { step: "faulty"; faults: Fault[]; says: string };

export const action = act<Answer>("plan", async (desk, input): Promise<Done<Answer>> => {
  const mark = input.mark === "comma" ? "," : ".";
  const { file } = input;
  if (!(file instanceof Upload) || file.size === 0) return faulty([], "Choose a file, or paste some rows.");
  if (file.size > MOST_BYTES) return faulty([], "The file is larger than 20 MB. Split it.");
  if (input.do === "look") {
    const looked = await readInWorker("look", { bytes: file.bytes, mark, rows: SHOWN });
    if ("says" in looked) return faulty([], looked.says);
    return looked.ok ? done({ step: "looked", looked }) : faulty(looked.faults, "This could not be read.");
  }
  const mapping = mappingIn(input.mapping);
  const only = input.do === "load" ? "load" : "check";
  const answer = await loadInWorker(desk, "needs", file.bytes, { mark, mapping, only });
  if (answer.ok) return done({ step: input.do === "load" ? "loaded" : "checked", rows: answer.value.rows });
  return faulty("faults" in answer ? answer.faults : [], answer.problems[0]?.says ?? "This could not be brought.");
});

const faulty = (faults: Fault[], says: string): Done<Answer> => done({ step: "faulty", faults, says });

function mappingIn(text: unknown): Mapping {
  const read = readJson(text);
  const known: string[] = COLUMNS.needs.map((c) => c.name);
  if (!isRecord(read)) return {};
  return Object.fromEntries(
    Object.entries(read).flatMap(([k, v]) => (known.includes(k) && typeof v === "string" ? [[k, v]] : [])),
  );
}

/** A file on its way into the pool: looked at, its columns matched, checked as they are matched, brought. */
function useBringing() {
  const fetcher = useFetcher<typeof action>();
  const [file, setFile] = useState<File | null>(null);
  const [mark, setMark] = useState("point");
  const [looked, setLooked] = useState<Looked | null>(null);
  const [mapping, setMapping] = useState<Mapping>({});
  const [checkedAs, setCheckedAs] = useState<string | null>(null);
  const key = useRef(newKey());
  const busy = fetcher.state !== "idle";
  const answer = fetcher.data?.ok ? fetcher.data.value : null;
  const refused = fetcher.data && !fetcher.data.ok ? fetcher.data.problems[0]?.says : null;
  const seen = useRef<unknown>(null);
  if (answer && seen.current !== answer) {
    seen.current = answer;
    if (answer.step === "looked") {
      setLooked(answer.looked);
      setMapping(answer.looked.mapping);
      setCheckedAs(null);
    }
    if (answer.step === "checked") setCheckedAs(JSON.stringify(mapping));
  }
  const send = (what: "look" | "check" | "load", from = file) => {
    // Another file takes the place of one that is looked at or checked: only what is being brought is waited for.
    const brings = busy && fetcher.formData?.get("do") === "load";
    if (!from || (what === "look" ? brings : busy)) return;
    if (what === "look") key.current = newKey();
    const body = new FormData();
    body.set("do", what);
    body.set("file", from);
    body.set("mark", mark);
    body.set("mapping", JSON.stringify(mapping));
    body.set("key", key.current + what);
    void fetcher.submit(body, { method: "post", encType: "multipart/form-data" });
  };
  const take = (next: File) => {
    setFile(next);
    setLooked(null);
    send("look", next);
  };
  const checked = checkedAs !== null && checkedAs === JSON.stringify(mapping);
  return { busy, answer, refused, looked, mapping, setMapping, checked, mark, setMark, send, take };
}

/** Needs from a spreadsheet: chosen or pasted, its columns matched, checked, and only then brought into the pool. */
export default function Bring() {
  const { fields, store } = useLoaderData<typeof loader>();
  const { busy, answer, refused, looked, mapping, setMapping, checked, mark, setMark, send, take } = useBringing();
  const missing = fields.filter((f) => f.required && !mapping[f.name]).map((f) => f.name.replace("_", " "));
  const loaded = answer?.step === "loaded" ? answer.rows : null;
  const fault = answer?.step === "faulty" ? answer : null;
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="Bring needs from a spreadsheet" sub="CSV or XLSX, or rows copied from one">
            <Link className="underline" to="/needs">
              Back to the needs
            </Link>
          </SheetHead>
          <Source mark={mark} onMark={setMark} onFile={take} />
          {loaded !== null && (
            <div
              role="status"
              className="mx-4.5 mb-3 flex items-center gap-4 border-l-4 border-harbour bg-harbour-2/60 px-3 py-2"
            >
              <b>{loaded === 1 ? "1 need is" : `${loaded} needs are`} in the pool.</b>
              <ButtonLink to="/needs?source=file" look="plain">
                See them
              </ButtonLink>
            </div>
          )}
          {fault && (
            <p role="alert" className="mx-4.5 mb-2 border-l-4 border-signal bg-signal-2/60 px-3 py-2 font-semibold">
              {fault.says}
            </p>
          )}
          {fault && fault.faults.length > 0 && <Faults faults={fault.faults} />}
          {looked && loaded === null && (
            <LookedRows looked={looked} fields={fields} mapping={mapping} onMapping={setMapping} />
          )}
          {!looked && !fault && loaded === null && (
            <Empty title="No rows yet">
              The first rows appear here, so that you can say which column is which before anything is kept.
            </Empty>
          )}
        </div>
      }
      slip={
        <>
          <SlipHead over="what a row says" title="A need">
            <p className="mt-1 text-ink-2">
              {store
                ? `Without a store it is for ${store}.`
                : "You have no store of your own, so each row must name one."}{" "}
              All rows are brought, or none.
            </p>
          </SlipHead>
          <SlipPart title="Fields">
            <FileColumns of="needs" columns={fields} />
          </SlipPart>
        </>
      }
      tally={
        <TallyLine
          trouble={
            refused ?? (looked && missing.length ? `Say which column holds the ${missing.join(" and the ")}.` : null)
          }
          act={
            looked &&
            loaded === null && (
              <>
                <Button disabled={busy || missing.length > 0} onClick={() => send("check")}>
                  {busy ? "Checking…" : "Check"}
                </Button>
                <Button look="main" disabled={busy || missing.length > 0 || !checked} onClick={() => send("load")}>
                  Bring {looked.count} {looked.count === 1 ? "need" : "needs"}
                </Button>
              </>
            )
          }
        >
          {checked && looked && (
            <span className="font-semibold text-weed">Checked: all {looked.count} rows can be brought</span>
          )}
          {looked && !checked && <span>{looked.count} rows read, not checked yet</span>}
        </TallyLine>
      }
    />
  );
}

/** The file, or rows that were copied from one. */
function Source({
  mark,
  onMark,
  onFile,
}: {
  mark: string;
  onMark: (mark: string) => void;
  onFile: (file: File) => void;
}) {
  const [pasted, setPasted] = useState("");
  return (
    <div className="grid grid-cols-[300px_minmax(0,1fr)] gap-5 border-t-2 border-ink px-4.5 py-3 max-md:grid-cols-1">
      <div className="flex flex-col gap-3">
        <Field label="A file">
          {(a) => <FileEntry {...a} label="A file" accept=".csv,.xlsx,.txt" onFile={onFile} />}
        </Field>
        <Field label="Numbers are written">
          {(a) => (
            <select {...a} className="entry" value={mark} onChange={(e) => onMark(e.target.value)}>
              <option value="point">with a point, 12.5</option>
              <option value="comma">with a comma, 12,5</option>
            </select>
          )}
        </Field>
      </div>
      <Field label="Or rows pasted from a spreadsheet" hint="with a line of names, or as code, quantity, day">
        {(a) => (
          <textarea
            {...a}
            rows={4}
            className="entry font-mono text-xs"
            value={pasted}
            onChange={(e) => setPasted(e.target.value)}
            onPaste={(e) => {
              const text = e.clipboardData.getData("text");
              if (pasted.trim() || !text.includes("\n")) return;
              setTimeout(() => onFile(new File([text], "pasted.csv", { type: "text/csv" })), 0);
            }}
            onBlur={() => pasted.trim() && onFile(new File([pasted], "pasted.csv", { type: "text/csv" }))}
          />
        )}
      </Field>
    </div>
  );
}

/** The first rows, and above each column what it holds. */
function LookedRows({
  looked,
  fields,
  mapping,
  onMapping,
}: {
  looked: Looked;
  fields: readonly { name: string }[];
  mapping: Mapping;
  onMapping: (mapping: Mapping) => void;
}) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full">
        <caption className="px-4.5 py-1.5 text-left text-xs text-ink-2">
          {looked.count} rows{looked.named ? "" : "; no line of names was found, so columns go by their order"}. Say
          what each column holds.
        </caption>
        <thead>
          <tr className="border-y-2 border-ink">
            <th className="w-10 pl-4.5 text-left text-2xs font-semibold text-ink-3">Line</th>
            {looked.columns.map((c) => {
              const field = Object.keys(mapping).find((f) => mapping[f] === c) ?? "";
              return (
                <th key={c} scope="col" className="px-2 py-1.5 text-left align-bottom">
                  <span className="code block">{c}</span>
                  <select
                    aria-label={`What column ${c} holds`}
                    className={`entry w-full text-xs ${field ? "font-semibold" : "text-ink-3"}`}
                    value={field}
                    onChange={(e) => {
                      const next: Mapping = Object.fromEntries(
                        Object.entries(mapping).map(([f, name]) => [f, name === c ? "" : name]),
                      );
                      if (e.target.value) next[e.target.value] = c;
                      onMapping(next);
                    }}
                  >
                    <option value="">leave out</option>
                    {fields.map((f) => (
                      <option key={f.name} value={f.name}>
                        {f.name.replace("_", " ")}
                      </option>
                    ))}
                  </select>
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {looked.rows.map((r) => (
            <tr key={r.line} className="h-8 border-b border-rule-2">
              <td className="figure pl-4.5 text-ink-3">{r.line}</td>
              {looked.columns.map((c, i) => (
                <td
                  key={c}
                  className={`max-w-56 truncate px-2 font-mono text-xs ${Object.values(mapping).includes(c) ? "" : "text-ink-3"}`}
                >
                  {r.cells[i]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {looked.count > looked.rows.length && (
        <p className="px-4.5 py-1.5 text-xs text-ink-3">and {looked.count - looked.rows.length} more</p>
      )}
    </div>
  );
}
