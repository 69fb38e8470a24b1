import { useState } from "react";
import { useFetcher } from "react-router";
import { FileEntry } from "../ui/file-entry";
import { SlipPart } from "../ui/frame-parts";
import { newKey } from "../ui/submission";

/** What every page with files of its own knows. */
export type FileWord = "attach" | "detach";

interface File {
  id: number;
  name: string;
  size: number;
  by: string;
  sent?: boolean;
}

/** Files with a paper: drawings, quotations, pictures. They are only ever saved, never shown by the browser. */
export function Attachments({
  at,
  files,
  mayAttach,
  mayTakeOff,
  sends = false,
}: {
  /** Address of the paper, such as /orders/12. */
  at: string;
  files: readonly File[];
  mayAttach: boolean;
  mayTakeOff: boolean;
  /** New files may go out with the paper. */
  sends?: boolean;
}) {
  const [sent, setSent] = useState(true);
  const fetcher = useFetcher<{ ok: boolean; problems?: { says: string }[] }>();
  if (files.length === 0 && !mayAttach) return null;
  const problem = fetcher.data && !fetcher.data.ok ? fetcher.data.problems?.[0]?.says : null;
  const busy = fetcher.state !== "idle";
  return (
    <SlipPart title="Files">
      {files.length > 0 && (
        <ul className="mb-1.5 border border-rule bg-sheet">
          {files.map((f) => (
            <li
              key={f.id}
              className="flex items-baseline gap-2 border-b border-rule-2 px-2.5 py-1 text-xs last:border-0"
            >
              <a className="min-w-0 flex-1 truncate underline" href={`${at}/files/${f.id}`} download>
                {f.name}
              </a>
              {f.sent && <span className="text-ink-3">goes out</span>}
              <span className="text-ink-3">{Math.max(1, Math.round(f.size / 1000))} KB</span>
              {mayTakeOff && (
                <button
                  type="button"
                  className="underline"
                  aria-label={`Take off ${f.name}`}
                  disabled={busy}
                  onClick={() =>
                    fetcher.submit(
                      { do: "detach" satisfies FileWord, attachment: String(f.id), key: newKey() },
                      { method: "post" },
                    )
                  }
                >
                  Take off
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {mayAttach && (
        <FileEntry
          label="Attach a file"
          accept=".pdf,.png,.jpg,.jpeg,.xlsx,.docx,.csv,.txt"
          disabled={busy}
          onFile={(file) => {
            const body = new FormData();
            body.set("do", "attach" satisfies FileWord);
            body.set("key", newKey());
            body.set("file", file);
            if (sends && sent) body.set("sent", "yes");
            void fetcher.submit(body, { method: "post", encType: "multipart/form-data" });
          }}
        />
      )}
      {mayAttach && sends && (
        <label className="mt-1 flex items-center gap-1.5 text-xs text-ink-2">
          <input
            type="checkbox"
            checked={sent}
            onChange={(e) => setSent(e.target.checked)}
            className="accent-harbour"
          />
          goes out with the order
        </label>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-xs font-semibold text-signal">
          {problem}
        </p>
      )}
    </SlipPart>
  );
}
