import { useState } from "react";
import type { ReadDelivery } from "../../../server/acts/consigned/delivery-from-file";
import { answerOf } from "../../ui/answer-of";
import { FileEntry } from "../../ui/file-entry";
import { newKey } from "../../ui/submission";

type Answer = { ok: true; value: ReadDelivery } | { ok: false; problems: { says: string }[] };

/** Their delivery note or despatch advice from a file: it fills the sheet. */
export function DeliveryFile({ agreement, onRead }: { agreement: number; onRead: (read: ReadDelivery) => void }) {
  const [says, setSays] = useState<{ good: boolean; text: string } | null>(null);
  const take = async (file: File) => {
    const body = new FormData();
    body.set("file", file);
    body.set("key", newKey());
    setSays({ good: true, text: `Reading ${file.name}…` });
    const answer = await fetch(`/consigned/register/file?agreement=${agreement}`, { method: "POST", body })
      .then((a) => answerOf<Answer>(a))
      .catch(() => null);
    if (!answer) return setSays({ good: false, text: "The house does not answer: the file was not read." });
    if (!answer.ok) return setSays({ good: false, text: answer.problems.map((p) => p.says).join(" ") });
    onRead(answer.value);
    const { rows, strangers } = answer.value;
    const not = strangers.length ? ` Not in this agreement: ${strangers.slice(0, 5).join(", ")}.` : "";
    setSays({
      good: strangers.length === 0,
      text: `${rows.length === 1 ? "1 part" : `${rows.length} parts`} filled in. Look at it.${not}`,
    });
  };
  return (
    <span className="flex flex-col items-start gap-2">
      <FileEntry label="Their delivery note or despatch advice" accept=".csv,.xlsx,.xml" onFile={(f) => void take(f)} />
      <span role="status" className={says && !says.good ? "font-semibold text-signal" : ""}>
        {says?.text}
      </span>
    </span>
  );
}
