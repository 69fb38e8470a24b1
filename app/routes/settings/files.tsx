import { type RefObject, useRef, useState } from "react";
import { useActionData, useLoaderData, useSubmit } from "react-router";
import { recordOf } from "../../../core/keys";
import { may } from "../../../core/people/roles";
import { COLUMNS, FILE_KINDS, type FileKind } from "../../../exchange/csv/kinds";
import { MOST_BYTES } from "../../../exchange/csv/limits";
import { actOf, type FaultyFile, isFileKind, type LoadAnswer } from "../../../server/acts/files/load-file";
import { loadInWorker } from "../../../server/jobs/loads";
import { fileCounts } from "../../../server/queries/records/save-file";
import { Faults } from "../../parts/faults";
import { FileColumns } from "../../parts/file-columns";
import { LoadingBar } from "../../parts/loading";
import { Button, ButtonLink } from "../../ui/button";
import { Field } from "../../ui/field";
import { FileEntry } from "../../ui/file-entry";
import { SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { act, page } from "../../web/page";
import { Upload } from "../../web/sent";

const ABOUT: Record<FileKind, string> = {
  stores: "Where goods arrive and lie",
  rates: "What foreign money is worth, from a day on",
  items: "What is bought, and its stock unit",
  suppliers: "Whom it is bought from",
  sourcing: "Which supplier sells which item, how and how fast",
  prices: "Price lists with their breaks",
  accounts: "Ledger accounts that lines can name",
  budgets: "Budget lines with their periods",
  alternatives: "What may stand in for what",
  stock: "What is on hand, and when to reorder",
  lots: "Lots of what is on hand, with their expiry dates",
  usage: "What was used day by day; what is on hand stays",
  jobs: "Open demand of jobs and customers",
  outputs: "What jobs give back to stock",
  orders: "Orders that are with suppliers already",
  needs: "Needs from a spreadsheet, not yet ordered",
};

export const loader = page("save files", ({ db, person }) => ({
  counts: fileCounts(db),
  loadable: FILE_KINDS.filter((k) => may(person.roles, actOf(k)) && may(person.roles, "load files")),
  columns: recordOf(FILE_KINDS, (k) => COLUMNS[k].map(({ name, required, hint }) => ({ name, required, hint }))),
}));

export const action = act("load files", async (desk, input): Promise<LoadAnswer> => {
  const kind = String(input.kind ?? "");
  const file = input.file;
  if (!isFileKind(kind)) return { ok: false, problems: [{ field: "kind", says: "Choose what the file holds." }] };
  if (!(file instanceof Upload) || file.size === 0)
    return { ok: false, problems: [{ field: "file", says: "Choose a file that is not empty." }] };
  if (file.size > MOST_BYTES)
    return { ok: false, problems: [{ field: "file", says: "The file is larger than 20 MB. Split it." }] };
  return loadInWorker(desk, kind, file.bytes, { mark: input.mark === "comma" ? "," : "." });
});

/** Files in and out: checked whole first, loaded entirely or not at all. */
export default function Files() {
  const { counts, loadable, columns } = useLoaderData<typeof loader>();
  const mayLoad = loadable.length > 0;
  const answer = useActionData<typeof action>();
  const submit = useSubmit();
  const busy = useBusy();
  const [tooLarge, setTooLarge] = useState(false);
  const [kind, setKind] = useState<FileKind>("items");
  const [sent, setSent] = useState("");
  const key = useSubmissionKey(answer);
  const form = useRef<HTMLFormElement>(null);
  const faults =
    answer && !answer.ok && "faults" in answer
      ? (answer.faults as FaultyFile["faults"]) // of a file, where an answer has them
      : null;
  const problem = answer && !answer.ok ? answer.problems[0] : undefined;
  const fileProblem = tooLarge
    ? "The file is larger than 20 MB. Split it."
    : problem?.field === "file" && !faults
      ? problem.says
      : undefined;
  const load = () => {
    if (!form.current || busy) return;
    const body = new FormData(form.current);
    const file = body.get("file");
    setTooLarge(file instanceof File && file.size > MOST_BYTES); // not even sent
    if (file instanceof File && file.size > MOST_BYTES) return;
    const sentAs = `${key()}file`;
    setSent(sentAs);
    body.set("key", sentAs);
    void submit(body, { method: "post", encType: "multipart/form-data" });
  };
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-6">
          <SheetHead
            title="Files"
            sub="CSV in UTF-8, or XLSX; a file is checked whole, then loaded entirely or not at all"
          />
          {mayLoad && <LoadForm form={form} kinds={loadable} kind={kind} onKind={setKind} problem={fileProblem} />}
          {busy && sent && <LoadingBar of={sent} />}
          {!busy && answer?.ok && <LoadedRows loaded={answer.value} />}
          {!busy && problem && (faults || problem.field !== "file") && (
            <p role="alert" className="mx-4.5 mb-2 border-l-4 border-signal bg-signal-2/60 px-3 py-2 font-semibold">
              {problem.says}
            </p>
          )}
          {!busy && faults && (
            <Faults faults={faults} of={answer && "count" in answer ? Number(answer.count) : faults.length} />
          )}
          <SavedFiles counts={counts} />
        </div>
      }
      slip={
        <>
          <SlipHead over="columns of the file" title={kind}>
            <p className="mt-1 text-ink-2">
              {ABOUT[kind]}. The first line names the columns, in any order, separated by commas, semicolons or tabs. A
              code that is known already is changed, any other is added. A column that is left out keeps what is known;
              an empty cell empties it.
            </p>
          </SlipHead>
          <SlipPart title="Columns">
            <FileColumns of={kind} columns={columns[kind]} />
          </SlipPart>
        </>
      }
      tally={
        <TallyLine
          act={
            mayLoad && (
              <Button look="main" disabled={busy} onClick={load}>
                {busy ? "Checking…" : `Check and load ${kind}`}
              </Button>
            )
          }
        >
          <span>
            Load in this order: <b>{FILE_KINDS.filter((k) => k !== "needs").join(", ")}</b>
          </span>
        </TallyLine>
      }
    />
  );
}

function LoadForm({
  form,
  kinds,
  kind,
  onKind,
  problem,
}: {
  form: RefObject<HTMLFormElement | null>;
  kinds: readonly FileKind[];
  kind: FileKind;
  onKind: (kind: FileKind) => void;
  problem: string | undefined;
}) {
  return (
    <form ref={form} className="flex flex-wrap items-start gap-4 border-t-2 border-ink px-4.5 py-3">
      <Field label="The file holds">
        {(a) => (
          <select
            {...a}
            name="kind"
            className="entry"
            value={kind}
            onChange={(e) => onKind(e.target.value as FileKind)} // one of the options
          >
            {kinds.map((k) => (
              <option key={k} value={k}>
                {k}
              </option>
            ))}
          </select>
        )}
      </Field>
      <Field label="Numbers are written">
        {(a) => (
          <select {...a} name="mark" className="entry">
            <option value="point">with a point, 12.5</option>
            <option value="comma">with a comma, 12,5</option>
          </select>
        )}
      </Field>
      <Field label="File" problem={problem}>
        {(a) => <FileEntry {...a} label="File" name="file" accept=".csv,.xlsx,.txt" />}
      </Field>
    </form>
  );
}

function LoadedRows({ loaded }: { loaded: Extract<LoadAnswer, { ok: true }>["value"] }) {
  return (
    <div role="status" className="mx-4.5 mb-3 border-l-4 border-harbour bg-harbour-2/60 px-3 py-2">
      <p className="font-semibold">
        Loaded {loaded.rows} rows: {loaded.added} new, {loaded.changed} changed, {loaded.same} as before.
      </p>
      {Object.keys(loaded.columns).length > 0 && (
        <p>
          Changed:{" "}
          {Object.entries(loaded.columns)
            .map(([column, n]) => `${column} in ${n}`)
            .join(", ")}
          . The trail has each before and after.
        </p>
      )}
      {loaded.notes.slice(0, 20).map((n) => (
        <p key={`${n.line}${n.column}`}>
          Line {n.line}, {n.column}: {n.says}
        </p>
      ))}
    </div>
  );
}

function SavedFiles({ counts }: { counts: Record<FileKind, number> }) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Files that can be saved</caption>
      <Heads
        heads={[
          { label: "File" },
          { label: "What it holds", wide: true },
          { label: "Rows now", align: "right" },
          { label: "Save", hidden: true },
        ]}
      />
      <tbody>
        {FILE_KINDS.map((k) => (
          <tr key={k} className="h-9 border-b border-rule-2">
            <td className="pl-4.5 font-semibold">{k}</td>
            <td className="px-2 text-ink-2 max-md:hidden">{ABOUT[k]}</td>
            <td className="figure px-2 text-right">{w.quantity(counts[k] * 10_000)}</td>
            <td className="px-2 pr-4.5 text-right">
              <ButtonLink to={`/files/${k}/save.csv`} look="plain" reload>
                Save {k}.csv
              </ButtonLink>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
