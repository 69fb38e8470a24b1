import { invoicedOf } from "../../../core/orders/status";
import { count } from "../../../core/text";
import type { OrderHead, OrderSheet } from "../../../server/queries/orders/order";
import { Button } from "../../ui/button";
import { useWriting } from "../../ui/locale";

export interface Station {
  name: string;
  note: string;
  reached: "yes" | "half" | "no";
}

interface Props {
  sheet: Pick<OrderSheet, "head" | "lines" | "signings" | "receipts" | "mails">;
}

/** The way of an order, and how far it has come. */
export function Stations({ sheet }: Props) {
  const w = useWriting();
  const { head } = sheet;
  const placed = head.placed !== null;
  const cleared = head.cleared !== null;
  if (head.kind === "blanket") return <WayStrip stations={blanketStations(sheet, w)} />;
  const stations: Station[] = [
    { name: "Written", note: `${w.day(head.written, false)}, ${head.writerName}`, reached: "yes" },
    signedStation(sheet),
    {
      name: "With supplier",
      note: head.placed ? placedNote(sheet, w) : cleared ? "waits to be placed" : "",
      reached: placed ? "yes" : "no",
    },
    dockStation(sheet, w),
    invoicedStation(sheet),
  ];
  return <WayStrip stations={stations} />;
}

function signedStation({ head, signings }: Props["sheet"]): Station {
  const name = "Signed off";
  if (head.cleared !== null) return { name, note: lastSigner(signings) ?? "nobody had to sign", reached: "yes" };
  if (head.state !== "In sign-off") return { name, note: "not submitted yet", reached: "no" };
  const next = signings.at(-1)?.seats.find((s) => s.state === "waiting");
  return { name, note: `waits for ${next?.called}`, reached: "half" };
}

function dockStation({ head, lines, receipts }: Props["sheet"], w: ReturnType<typeof useWriting>): Station {
  const name = head.state === "All in" ? "All in" : "On the dock";
  if (receipts.length) {
    const goods = lines.filter((l) => l.kind !== "charge");
    const done = goods.filter((l) => l.received >= l.quantity).length;
    return {
      name,
      note: `${count(receipts.length, "receipt")}, ${done} of ${count(goods.length, "line")}`,
      reached: head.state === "All in" ? "yes" : "half",
    };
  }
  const nextDue = lines
    .filter((l) => l.received < l.quantity)
    .map((l) => l.due)
    .sort()[0];
  return { name, note: nextDue && head.placed ? `due ${w.day(nextDue)}` : "", reached: "no" };
}

/** What came and is invoiced: with the last of it the order is settled. */
function invoicedStation({ head, lines }: Props["sheet"]): Station {
  const goods = lines.filter((l) => l.kind !== "charge");
  const share = invoicedOf(goods);
  const settled = share === "all" && head.stage === "closed";
  return {
    name: settled ? "Settled" : "Invoiced",
    note:
      share === "none"
        ? ""
        : settled
          ? "all that came is invoiced"
          : `${goods.filter((l) => l.received > 0 && l.invoiced >= l.received).length} of ${count(goods.length, "line")}`,
    reached: settled ? "yes" : share === "none" ? "no" : "half",
  };
}

const lastSigner = (signings: OrderSheet["signings"]) =>
  signings
    .flatMap((s) => s.seats.flatMap((t) => t.signatures))
    .filter((g) => g.what === "signed")
    .at(-1)?.person;

/** A blanket order is in force from its first day to its last; nothing of it comes to the dock by itself. */
/** When it went to the supplier, and how: an order that was brought from elsewhere was not sent by us. */
function placedNote({ head, mails }: Props["sheet"], w: ReturnType<typeof useWriting>): string {
  const how = mails.length === 0 ? "" : mails.every((m) => m.waits) ? ", e-mail waits" : ", e-mailed";
  return w.day(head.placed!, false) + how;
}

function blanketStations(sheet: Props["sheet"], w: ReturnType<typeof useWriting>): Station[] {
  const { head, signings } = sheet;
  const placed = head.placed !== null;
  const begun = placed && head.starts! <= w.today;
  const over = placed && (head.ends! < w.today || head.closed !== null);
  return [
    { name: "Written", note: `${w.day(head.written, false)}, ${head.writerName}`, reached: "yes" },
    {
      name: "Signed off",
      note: head.cleared ? (lastSigner(signings) ?? "nobody had to sign") : "not yet",
      reached: head.cleared ? "yes" : head.state === "In sign-off" ? "half" : "no",
    },
    {
      name: "With supplier",
      note: placed ? placedNote(sheet, w) : "",
      reached: placed ? "yes" : "no",
    },
    { name: "In force", note: `from ${w.day(head.starts!, false)}`, reached: over ? "yes" : begun ? "half" : "no" },
    {
      name: "Ended",
      note: head.closed ? "closed before its end" : w.day(head.ends!, false),
      reached: over ? "yes" : "no",
    },
  ];
}

/** Stations in a row, and how far along it is. */
export function WayStrip({ stations }: { stations: Station[] }) {
  return (
    <ol
      className="grid grid-cols-5 px-4.5 pt-1 pb-3 max-md:grid-cols-2 max-md:gap-y-3"
      aria-label="How far it has come"
    >
      {stations.map((s, i) => (
        <li key={s.name} className="relative">
          {i < stations.length - 1 && (
            <span
              aria-hidden="true"
              className={`absolute top-[5px] right-0 left-[13px] h-[2px] max-md:hidden ${stations[i + 1]!.reached !== "no" ? "bg-ink" : "bg-rule"}`}
            />
          )}
          <svg width="13" height="13" viewBox="0 0 13 13" className="relative block" aria-hidden="true">
            <rect
              x="1"
              y="1"
              width="11"
              height="11"
              fill={s.reached === "yes" ? "var(--color-ink)" : "var(--color-sheet)"}
              stroke={s.reached === "no" ? "var(--color-ink-3)" : "var(--color-ink)"}
              strokeWidth="1.5"
            />
            {s.reached === "half" && <path d="M1 12 12 1v11z" fill="var(--color-ink)" />}
          </svg>
          <span className={`mt-1 block font-semibold ${s.reached === "no" ? "text-ink-3" : ""}`}>{s.name}</span>
          <span className="block text-xs text-ink-3">{s.note}</span>
        </li>
      ))}
    </ol>
  );
}

/** What is known of a paper: what it is, and how it is written. */
export type StripFacts = readonly (readonly [what: string, is: string])[];

export function FactStrip({ facts }: { facts: StripFacts }) {
  return (
    <dl className={`grid ${facts.length > 4 ? "grid-cols-6" : "grid-cols-4"} border-y border-rule max-md:grid-cols-2`}>
      {facts.map(([k, v]) => (
        <div key={k} className="border-r border-rule px-4.5 py-2 last:border-0">
          <dt className="text-xs text-ink-3">{k}</dt>
          <dd className="truncate">{v}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Why nobody may go on with an order; whoever may let it go on does so here. */
export function HeldNote({
  head,
  busy,
  onLetGo,
}: {
  head: Pick<OrderHead, "held" | "heldBy" | "heldAt">;
  busy: boolean;
  onLetGo: (() => void) | null;
}) {
  const w = useWriting();
  if (!head.held) return null;
  return (
    <div className="mx-4.5 mb-3 flex flex-wrap items-center gap-3 border-l-4 border-signal bg-signal-2/60 px-3 py-2">
      <span>
        <b>Held</b> by {head.heldBy}
        {head.heldAt && `, ${w.moment(head.heldAt)}`}: {head.held}
      </span>
      {onLetGo && (
        <Button disabled={busy} onClick={onLetGo}>
          Let it go on
        </Button>
      )}
    </div>
  );
}
