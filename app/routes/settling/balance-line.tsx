import type { SupplierBalance } from "../../../server/queries/settling/balance";
import { useWriting } from "../../ui/locale";

/** How we stand with a supplier, in a line; nothing where nothing is between us. */
export function BalanceLine({ balance: b, className = "" }: { balance: SupplierBalance; className?: string }) {
  const w = useWriting();
  const said = [
    b.owed > 0 && `we owe them ${w.amount(b.owed)}`,
    b.owed < 0 && `they owe us ${w.amount(-b.owed)}`,
    b.overdue > 0 && `of it ${w.amount(b.overdue)} overdue`,
    b.held > 0 && `${w.amount(b.held)} that they billed is held`,
    b.claimed > 0 && `${w.amount(b.claimed)} is claimed`,
  ].filter(Boolean);
  if (said.length === 0) return null;
  const text = said.join("; ");
  return <p className={className}>{`${text[0]!.toUpperCase()}${text.slice(1)}.`}</p>;
}
