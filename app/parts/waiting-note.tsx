import { useState } from "react";
import { Link } from "react-router";
import { count } from "../../core/text";
import { Button } from "../ui/button";
import { useWriting } from "../ui/locale";
import type { useSending } from "./use-sending";

/** What this device has to send, and what of it the house refused. */
export function WaitingNote({ sending, onBack }: { sending: ReturnType<typeof useSending>; onBack?: () => void }) {
  const w = useWriting();
  const [begun, setBegun] = useState<string | null>(null);
  const { waiting, online, taken } = sending;
  const open = waiting.filter((x) => x.refused === null);
  const refused = waiting.filter((x) => x.refused !== null);
  if (online && waiting.length === 0 && taken.length === 0) return null;
  return (
    <div role="status" className="mx-4.5 my-2 border-l-4 border-ink bg-band px-3 py-1.5">
      {!online && <p className="font-semibold">No connection. What you count is kept on this device.</p>}
      {open.length > 0 && (
        <p>
          {count(open.length, "count")} {open.length === 1 ? "waits" : "wait"} to be sent:{" "}
          {open.map((x) => x.what).join("; ")}
        </p>
      )}
      {taken.length > 0 && <p className="text-weed">Sent: {taken.map((x) => x.what).join("; ")}</p>}
      {refused.map((x) => (
        <div key={x.key} className="border-t border-rule py-1">
          <p className="font-semibold text-signal">
            {x.what}, counted {w.moment(x.at)}: {x.refused!.join(" ")}
          </p>
          {begun === x.key && <p>Another count is begun there: take that in first, or empty it.</p>}
          <span className="flex gap-3">
            <Button
              look="plain"
              className="max-lg:min-h-12"
              onClick={() => void sending.takeBack(x).then((back) => (back ? onBack?.() : setBegun(x.key)))}
            >
              go on with this count
            </Button>
            <Button look="plain" className="max-lg:min-h-12" onClick={() => void sending.forget(x)}>
              forget it
            </Button>
            {x.to.startsWith("/dock/") && (
              <Link className="self-center underline" to={x.to.replace("/send", "")}>
                its count sheet
              </Link>
            )}
          </span>
        </div>
      ))}
    </div>
  );
}
