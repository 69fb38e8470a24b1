import { useState } from "react";
import { useSubmit } from "react-router";
import { Button } from "../../ui/button";
import { Field } from "../../ui/field";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";

interface Signature {
  id: number;
  round: number;
  teamName: string;
  amount: number;
  asked: string | null;
  state: string;
  person: string | null;
  at: string | null;
  reason: string;
}

const WORDS: Record<string, string> = {
  later: "after the one before",
  waiting: "waits",
  signed: "signed",
  "sent back": "sent back",
  "not reached": "not reached",
};

/** Who signed, who is asked now, who comes later: the newest round first. */
export function Signatures({ signatures }: { signatures: readonly Signature[] }) {
  const w = useWriting();
  if (signatures.length === 0) return null;
  const last = Math.max(...signatures.map((g) => g.round));
  return (
    <div id="sign-off">
      <SlipPart title="Sign-off">
        <ol className="border border-rule bg-sheet">
          {signatures
            .toSorted((a, b) => b.round - a.round)
            .map((g) => (
              <li
                key={g.id}
                className={`border-b border-rule-2 px-2.5 py-1.5 last:border-0 ${g.round === last ? "" : "text-ink-3"}`}
              >
                <div className="flex justify-between gap-3">
                  <span className="font-semibold">{g.teamName}</span>
                  <span className={g.state === "sent back" && g.round === last ? "font-semibold text-signal" : ""}>
                    {WORDS[g.state]}
                  </span>
                </div>
                <div className="flex justify-between gap-3 text-xs">
                  <span>
                    {g.person ? `${g.person}, ${w.moment(g.at ?? "")}` : g.asked ? `asked ${w.moment(g.asked)}` : ""}
                  </span>
                  <span className="figure">{w.amount(g.amount)}</span>
                </div>
                {g.reason && <p className="mt-0.5">“{g.reason}”</p>}
              </li>
            ))}
        </ol>
      </SlipPart>
    </div>
  );
}

/** The approver's part: a reason is asked for only when it is sent back. */
export function SendBack({ version, problem }: { version: number; problem?: string }) {
  const [open, setOpen] = useState(false);
  const submit = useSubmit();
  const key = useSubmissionKey(version);
  const busy = useBusy();
  if (!open && !problem) {
    return (
      <div>
        <Button onClick={() => setOpen(true)}>Send back…</Button>
      </div>
    );
  }
  return (
    <form
      className="flex flex-col gap-2 border border-ink bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        const reason = String(new FormData(e.currentTarget).get("reason") ?? "");
        submit({ do: "send back", version: String(version), reason, key: `${key()}back` }, { method: "post" });
      }}
    >
      <Field label="Why, so that the writer knows what to change" problem={problem}>
        {/* biome-ignore lint/a11y/noAutofocus: the person has just asked to write here */}
        {(a) => <textarea {...a} name="reason" rows={3} maxLength={500} className="entry" autoFocus />}
      </Field>
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={busy}>
          Send back
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </div>
    </form>
  );
}
