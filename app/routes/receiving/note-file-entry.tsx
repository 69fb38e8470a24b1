import { useState } from "react";
import { useRevalidator } from "react-router";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { answerOf } from "../../ui/answer-of";
import { FileEntry } from "../../ui/file-entry";
import { newKey } from "../../ui/submission";
import type { NoteAnswer } from "./note-file";
import type { useCounting } from "./use-counting";

type Answer = { ok: true; value: NoteAnswer } | { ok: false; problems: { says: string }[] };

/** A delivery note or despatch advice from a file: it fills the count, or stands among what is announced. */
export function NoteFileEntry({ sheet, counting }: { sheet: CountSheet; counting: ReturnType<typeof useCounting> }) {
  const [says, setSays] = useState<{ good: boolean; text: string } | null>(null);
  const { revalidate } = useRevalidator();
  const take = async (file: File) => {
    const body = new FormData();
    body.set("file", file);
    body.set("key", newKey());
    setSays({ good: true, text: `Reading ${file.name}…` });
    const answer = await fetch(`/dock/${sheet.order}/note?store=${sheet.store}`, { method: "POST", body })
      .then((a) => answerOf<Answer>(a))
      .catch(() => null);
    if (!answer) return setSays({ good: false, text: "The house does not answer: the file was not read." });
    if (!answer.ok) return setSays({ good: false, text: answer.problems.map((p) => p.says).join(" ") });
    const { parts, strangers, announced } = answer.value;
    if (announced !== null) {
      setSays({ good: true, text: `${announced} is announced now: count by it, or by hand.` });
      return void revalidate();
    }
    counting.note(parts);
    const not = strangers.length ? ` Not on this order: ${strangers.slice(0, 5).join(", ")}.` : "";
    setSays({
      good: strangers.length === 0,
      text: `${parts.length === 1 ? "1 part is" : `${parts.length} parts are`} counted by the file. Look at it.${not}`,
    });
  };
  return (
    <span className="flex flex-wrap items-center gap-2">
      <FileEntry label="the note from a file" accept=".csv,.xlsx,.xml" onFile={(f) => void take(f)} />
      <span role="status" className={says && !says.good ? "font-semibold text-signal" : ""}>
        {says?.text}
      </span>
    </span>
  );
}
