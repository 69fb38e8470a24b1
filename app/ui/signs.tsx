import type { AgreementState } from "../../core/consigned/agreement";
import type { RefillState } from "../../core/consigned/refill";
import type { StatementState } from "../../core/consigned/statement";
import { showQuantity } from "../../core/numbers/format";
import type { OrderState } from "../../core/orders/status";
import type { RequisitionState } from "../../core/requisitions/state";
import type { ClaimState } from "../../core/settling/claim";
import type { InvoiceState } from "../../core/settling/invoice";
import type { PayLineState, PayListState } from "../../core/settling/pay-list";
import type { CountState } from "../../core/stock/stock-count";

/** Stock against its reorder point: the bar is what is available, the stroke the reorder point. */
export function TideBar({ available, reorderPoint, unit }: { available: number; reorderPoint: number; unit: string }) {
  const most = Math.max(available, reorderPoint * 1.75, 1);
  const low = available < reorderPoint;
  const share = (n: number) => `${Math.max(0, Math.min(100, (n / most) * 100))}%`;
  // One element, drawn by its background: a sheet shows a dozen of these at every step of scrolling.
  const ink = (colour: string) => `linear-gradient(${colour},${colour})`;
  return (
    <span
      role="img"
      aria-label={`${showQuantity(available)} ${unit} available, reorder point ${showQuantity(reorderPoint)}`}
      className="inline-block h-[14px] w-full min-w-16 bg-no-repeat align-middle"
      style={{
        backgroundImage: [
          ink("var(--color-ink)"),
          ink(low ? "var(--color-signal)" : "var(--color-harbour)"),
          ink("var(--color-rule-2)"),
        ].join(","),
        backgroundSize: `2px 14px, ${share(available)} 6px, 100% 6px`,
        backgroundPosition: `${share(reorderPoint)} 0, 0 4px, 0 4px`,
      }}
    />
  );
}

interface Part {
  share: number;
  look: "received" | "promised" | "late" | "none";
}
const LOOKS = { received: "bg-harbour", promised: "hatch", late: "hatch-late", none: "bg-transparent" };

/** What became of an ordered quantity: received, promised in time, promised late, no promise. */
export function TallyStrip({
  ordered,
  received,
  late,
  promised,
  label,
}: {
  ordered: number;
  received: number;
  late: boolean;
  promised: boolean;
  label: string;
}) {
  const open = Math.max(0, ordered - received);
  const parts: Part[] = [
    { share: received, look: "received" },
    { share: open, look: late ? "late" : promised ? "promised" : "none" },
  ];
  return <Strip parts={parts} label={label} />;
}

/** The strip of a whole order, by its lines. */
export function OrderStrip({ lines, linesIn, linesLate }: { lines: number; linesIn: number; linesLate: number }) {
  const parts: Part[] = [
    { share: linesIn, look: "received" },
    { share: lines - linesIn - linesLate, look: "none" },
    { share: linesLate, look: "late" },
  ];
  return <Strip parts={parts} label={`${linesIn} of ${lines} lines in, ${linesLate} overdue`} />;
}

function Strip({ parts, label }: { parts: Part[]; label: string }) {
  const all = parts.reduce((a, p) => a + p.share, 0) || 1;
  return (
    <span
      role="img"
      aria-label={label}
      className="inline-flex h-[11px] w-full min-w-16 border border-ink-3 align-middle"
    >
      {parts
        .filter((p) => p.share > 0)
        .map((p, i) => (
          <span key={i} className={LOOKS[p.look]} style={{ width: `${(p.share / all) * 100}%` }} />
        ))}
    </span>
  );
}

export function StripLegend() {
  const entries = [
    ["received", "bg-harbour"],
    ["promised", "hatch"],
    ["overdue", "hatch-late"],
    ["no promise yet", "bg-transparent"],
  ] as const;
  return (
    <ul className="flex flex-wrap gap-4 text-2xs text-ink-3">
      {entries.map(([word, look]) => (
        <li key={word} className="flex items-center gap-1.5">
          <span className={`inline-block h-[9px] w-[22px] border border-ink-3 ${look}`} />
          {word}
        </li>
      ))}
    </ul>
  );
}

/** Five-bar gates that grow as goods are counted; beyond sixty a gate says how many it stands for. */
export function TallyGates({ counted }: { counted: number }) {
  const whole = Math.floor(counted / 10_000);
  const each = Math.max(1, Math.ceil(whole / 60));
  const strokes = Math.floor(whole / each);
  const gates = Math.floor(strokes / 5);
  const rest = strokes % 5;
  return (
    <span className="inline-flex flex-wrap items-center gap-x-1.5 gap-y-1 text-harbour" aria-hidden="true">
      {Array.from({ length: gates + (rest ? 1 : 0) }, (_, g) => {
        const bars = g < gates ? 5 : rest;
        return (
          <svg
            key={g}
            aria-hidden="true"
            width="22"
            height="18"
            viewBox="0 0 22 18"
            fill="none"
            stroke="currentColor"
            strokeWidth="2"
            strokeLinecap="round"
          >
            {[3, 8, 13, 18].slice(0, Math.min(4, bars)).map((x) => (
              <path key={x} d={`M${x + 1.5} 2 ${x} 16`} />
            ))}
            {bars === 5 && <path d="M1 13 21 5" />}
          </svg>
        );
      })}
      {each > 1 && <span className="code">a stroke is {each}</span>}
    </span>
  );
}

type State =
  | OrderState
  | RequisitionState
  | CountState
  | AgreementState
  | StatementState
  | RefillState
  | InvoiceState
  | ClaimState
  | PayListState
  | PayLineState
  | "Planned"
  | "Moved";
type Square = "empty" | "half" | "dot" | "bars" | "full" | "struck";
const SQUARES: Record<State, Square> = {
  Draft: "empty",
  Planned: "dot",
  Moved: "full",
  Counted: "bars",
  Booked: "full",
  Dropped: "struck",
  "In sign-off": "half",
  Cleared: "dot",
  Open: "dot",
  "Part ordered": "dot",
  Ordered: "bars",
  "With supplier": "bars",
  "Confirmed in part": "bars",
  Confirmed: "bars",
  "Part in": "bars",
  "All in": "full",
  Met: "full",
  "Closed short": "struck",
  Cancelled: "struck",
  Declined: "struck",
  Withdrawn: "struck",
  // Agreements, refills and use statements.
  Running: "full",
  Ended: "struck",
  "Taken in": "full",
  Asked: "dot",
  Promised: "bars",
  In: "full",
  "Given up": "struck",
  Made: "half",
  Sent: "dot",
  Questioned: "dot",
  Agreed: "full",
  // Invoices and claims.
  Held: "half",
  Matched: "bars",
  "Part paid": "bars",
  Paid: "full",
  "Sent back": "struck",
  "Taken off": "struck",
  Credited: "full",
  // Pay lists and their transfers.
  Written: "half",
  Released: "dot",
  "With the bank": "bars",
  Answered: "full",
  Listed: "dot",
  Executed: "full",
  Rejected: "struck",
  "Left out": "struck",
};

function shape(square: Square) {
  switch (square) {
    case "empty":
      return null;
    case "half":
      return <path d="M1 11 11 1v10z" fill="currentColor" />;
    case "dot":
      return <rect x="4" y="4" width="4" height="4" fill="currentColor" />;
    case "bars":
      return <path d="M3.5 1v10M6 1v10M8.5 1v10" stroke="currentColor" strokeWidth="1.2" />;
    case "full":
      return <rect x="1" y="1" width="10" height="10" fill="currentColor" />;
    case "struck":
      return <path d="M1 11 11 1" stroke="currentColor" strokeWidth="1.5" />;
  }
}

/** The state of a paper: a square, always with its word. */
export function StateSquare({ state }: { state: State }) {
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
        <rect x="0.75" y="0.75" width="10.5" height="10.5" fill="none" stroke="currentColor" strokeWidth="1.5" />
        {shape(SQUARES[state])}
      </svg>
      {state}
    </span>
  );
}
