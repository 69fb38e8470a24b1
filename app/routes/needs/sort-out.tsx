import { useState } from "react";
import { Link, useActionData, useLoaderData, useSubmit } from "react-router";
import { count } from "../../../core/text";
import { dropNoted, sortOut } from "../../../server/acts/needs/note-needs";
import { readUnknown, type UnknownCode } from "../../../server/queries/needs/noted";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { ItemEntry } from "../../ui/item-entry";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, type PageActs, page } from "../../web/page";

export const loader = page("plan", ({ db }) => ({ rows: readUnknown(db) }));

const sortOutActs = { "sort out": sortOut, drop: dropNoted } satisfies PageActs;
type SortOutWord = keyof typeof sortOutActs;
export const action = actions("plan", sortOutActs);

/** Codes from floor rounds that nobody knew: each becomes an item, or is put aside. */
export default function SortOut() {
  const { rows } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const problem = answer && !answer.ok ? answer.problems[0]?.says : null;
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title="Codes to sort out" sub="scanned on the floor, and known to nobody">
            <Link className="underline" to="/needs">
              Back to the needs
            </Link>
          </SheetHead>
          {rows.length === 0 ? (
            <Empty title="Nothing to sort out">Every code from the floor is an item that we know.</Empty>
          ) : (
            <table className="w-full">
              <caption className="sr-only">Unknown codes</caption>
              <Heads
                heads={[
                  { label: "Code" },
                  { label: "Where", wide: true },
                  { label: "Quantity", align: "right", wide: true },
                  { label: "Noted by", wide: true },
                  { label: "It is", width: "w-[34%] max-md:w-auto" },
                  { label: "Put aside", hidden: true },
                ]}
              />
              <tbody>
                {rows.map((r) => (
                  <UnknownRow key={r.id} row={r} settled={rows} />
                ))}
              </tbody>
            </table>
          )}
        </div>
      }
      tally={
        <TallyLine trouble={problem}>
          <span>{count(rows.length, "code")}</span>
        </TallyLine>
      }
    />
  );
}

function UnknownRow({ row, settled }: { row: UnknownCode; settled: unknown }) {
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(settled);
  const [text, setText] = useState("");
  const [item, setItem] = useState<number | null>(null);
  const send = (body: Record<string, string>) =>
    submit({ ...body, noted: String(row.id), key: `${key()}${row.id}${body.do}` }, { method: "post" });
  return (
    <tr className="border-b border-rule-2 align-top">
      <td className="py-2.5 pl-4.5 font-mono">
        {row.code}
        <span className="block font-sans text-2xs text-ink-3 md:hidden">
          {w.quantity(row.quantity)} at {row.store}, by {row.by}
          {row.note && `: ${row.note}`}
        </span>
      </td>
      <td className="px-2 py-2.5 max-md:hidden">{row.store}</td>
      <td className="figure px-2 py-2.5 text-right max-md:hidden">{w.quantity(row.quantity)}</td>
      <td className="px-2 py-2.5 max-md:hidden">
        {row.by}
        <span className="block text-2xs text-ink-3">
          {w.moment(row.at)}
          {row.note && `: ${row.note}`}
        </span>
      </td>
      <td className="px-2 py-1.5">
        <div className="flex gap-2 max-md:flex-col">
          <div className="flex-1">
            <ItemEntry
              label={`What ${row.code} is`}
              text={text}
              placeholder="item code or name"
              onText={(t) => {
                setText(t);
                setItem(null);
              }}
              onItem={(f) => {
                setText(f.name);
                setItem(f.id);
              }}
              invalid={false}
            />
          </div>
          <Button
            disabled={busy || item === null}
            onClick={() => send({ do: "sort out" satisfies SortOutWord, item: String(item) })}
          >
            It is this
          </Button>
        </div>
      </td>
      <td className="px-2 py-2 pr-4.5 text-right">
        <Button
          look="plain"
          disabled={busy}
          onClick={() => send({ do: "drop" satisfies SortOutWord, reason: "nobody knows this code" })}
        >
          Put aside
        </Button>
      </td>
    </tr>
  );
}
