import { useEffect, useRef, useState } from "react";
import { Link, useFetcher, useNavigate } from "react-router";
import { count } from "../../../core/text";
import type { FiledInvoice } from "../../../server/acts/settling/invoice-from-file";
import type { InvoicesEntered } from "../../../server/acts/settling/invoices-from-table";
import { LoadingBar } from "../../parts/loading";
import { FileEntry } from "../../ui/file-entry";
import { newKey } from "../../ui/submission";
import type { EnterWord } from "./settle-acts";

type Answer =
  | { ok: true; value: FiledInvoice | InvoicesEntered }
  | { ok: false; problems: { field: string; says: string }[] };

/** Their invoice as a file: entered at once, or refused with all that is wrong with it. */
export function InvoiceFile() {
  const fetcher = useFetcher<Answer>();
  const navigate = useNavigate();
  const last = useRef<File | null>(null);
  const [sent, setSent] = useState("");
  const { data } = fetcher;
  const entered = data?.ok && "invoice" in data.value ? data.value.invoice : null;
  const several = data?.ok && "invoices" in data.value ? data.value : null;
  useEffect(() => {
    if (entered !== null) void navigate(`/settle/${entered}`);
  }, [entered, navigate]);
  const send = (file: File, another: boolean) => {
    last.current = file;
    const body = new FormData();
    body.set("do", "file" satisfies EnterWord);
    const key = newKey();
    setSent(key);
    body.set("key", key);
    body.set("another", another ? "yes" : "");
    body.set("file", file);
    void fetcher.submit(body, { method: "post", encType: "multipart/form-data" });
  };
  const problems = data && !data.ok ? data.problems : [];
  const asks = problems.find((p) => p.field === "another");
  return (
    <>
      <FileEntry
        label="Their invoice or credit note, UBL 2.1; or several, CSV or XLSX"
        accept=".xml,.csv,.xlsx"
        disabled={fetcher.state !== "idle"}
        onFile={(file) => send(file, false)}
      />
      {fetcher.state !== "idle" && sent && <LoadingBar of={sent} />}
      {several && (
        <p role="status" className="mt-2 text-xs">
          <b>{count(several.invoices, "invoice")}</b> entered, {several.held} held.{" "}
          <Link className="underline" to="/settle">
            Look at them
          </Link>
        </p>
      )}
      {problems.length > 0 && (
        <div role="alert" className="mt-2 border-l-4 border-signal px-2.5 text-xs">
          {problems.map((p) => (
            <p key={p.says} className="mb-1">
              {p.says}
            </p>
          ))}
          {asks && (
            <button
              type="button"
              className="font-semibold underline"
              onClick={() => last.current && send(last.current, true)}
            >
              It is another one: enter it
            </button>
          )}
        </div>
      )}
    </>
  );
}
