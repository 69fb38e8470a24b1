import { Link } from "react-router";
import type { OrderLineId } from "../../../core/ids";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { Button } from "../../ui/button";
import { useWriting } from "../../ui/locale";
import { type CountTexts, partsCounted } from "./counting";

/** The receipts by which this load was counted before. */
export function CountedBefore({ receipts }: { receipts: CountSheet["receipts"] }) {
  const w = useWriting();
  return (
    <p className="border-t border-rule px-4.5 py-2 text-xs text-ink-2">
      Counted before:{" "}
      {receipts.map((r, i) => (
        <span key={r.id}>
          {i > 0 && ", "}
          <Link to={`/receipts/${r.id}`} className="underline">
            {r.number}
          </Link>{" "}
          on {w.day(r.day)}
        </span>
      ))}
    </p>
  );
}

const countedWords = (past: CountTexts, line: OrderLineId) =>
  partsCounted(past, line)
    .map((p) => p.count || p.faulty)
    .filter(Boolean)
    .join(" and ");

/** What was counted before the load changed: some of it may be in stock already. */
export function PastCount({
  lines,
  past,
  onUse,
  onForget,
}: {
  lines: CountSheet["lines"];
  past: CountTexts;
  onUse: () => void;
  onForget: () => void;
}) {
  return (
    <div role="status" className="mx-4.5 my-2 border-l-4 border-signal bg-signal-2/60 px-3 py-1.5">
      This load changed after you counted{" "}
      {lines.map((l) => `${countedWords(past, l.line)} ${l.unit} of ${l.name}`).join(", ")}: some of it may be in stock
      already.{" "}
      <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={onUse}>
        Use this count
      </Button>{" "}
      <Button look="plain" className="min-h-0 py-0 max-lg:min-h-12" onClick={onForget}>
        Forget it
      </Button>
    </div>
  );
}
