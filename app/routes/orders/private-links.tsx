import { useFetcher } from "react-router";
import type { OrderLink } from "../../../server/queries/orders/link";
import { Button } from "../../ui/button";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { newKey } from "../../ui/submission";
import type { OrderWord } from "./order-acts";

/** Links through which the supplier reads the order without an account: when they looked, and how to end one. */
export function PrivateLinks({ links }: { links: readonly OrderLink[] }) {
  const w = useWriting();
  const fetcher = useFetcher<{ ok: boolean; value?: { address?: string } }>();
  const busy = fetcher.state !== "idle";
  const made = fetcher.data?.ok ? fetcher.data.value?.address : undefined;
  const act = (body: Record<string, string>) => fetcher.submit({ ...body, key: newKey() }, { method: "post" });
  return (
    <SlipPart title="Private link for the supplier">
      {links.length > 0 && (
        <ul className="mb-1.5 border border-rule bg-sheet text-xs">
          {links.map((l) => (
            <li key={l.id} className="flex items-baseline gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0">
              <span className="min-w-0 flex-1">
                {l.ended
                  ? `ended ${w.moment(l.ended)}`
                  : l.opened
                    ? `first read ${w.moment(l.opened)}`
                    : `sent ${w.moment(l.at)}, not read yet`}
              </span>
              {!l.ended && (
                <button
                  type="button"
                  className="underline"
                  disabled={busy}
                  aria-label={`End it: the link of ${w.moment(l.at)}`}
                  onClick={() => act({ do: "end link" satisfies OrderWord, link: String(l.id) })}
                >
                  End it
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {made && (
        <p role="status" className="mb-1.5 text-xs break-all">
          Send them this; it is shown only once: <b className="font-mono select-all">{made}</b>
        </p>
      )}
      <Button disabled={busy} onClick={() => act({ do: "make link" satisfies OrderWord })}>
        Make a new link
      </Button>
    </SlipPart>
  );
}
