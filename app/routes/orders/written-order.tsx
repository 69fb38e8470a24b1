import { useState } from "react";
import { Link, useNavigation, useSubmit } from "react-router";
import { sourceWords } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { count } from "../../../core/text";
import type { OrderSheet } from "../../../server/read/orders/order";
import { Button, ButtonLink } from "../../ui/button";
import { problemAt } from "../../ui/field";
import { SheetHead, SlipHead, SlipPart, Spread } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare, StripLegend, TallyStrip } from "../../ui/signs";
import { useSubmissionKey } from "../../ui/submission";
import { SumSheet } from "../../ui/sum";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { SendBack, Signatures } from "../parts/signatures";
import { serves } from "./draft-order";
import { Facts, Stations } from "./order-head";

interface Props {
  sheet: OrderSheet;
  /** False for an asker, who sees their lines and no prices. */
  sees: boolean;
  homeNet: number;
  mayWrite: boolean;
  mayPlace: boolean;
  maySign: boolean;
  contacts: { name: string; mail: string }[];
  needed: { sum: Sum | null } | null;
  problems?: readonly { field: string; says: string }[];
}

/** An order that can no longer be edited here: being signed, cleared, or with the supplier. */
export function WrittenOrder({ sheet, sees, homeNet, mayWrite, mayPlace, maySign, contacts, needed, problems }: Props) {
  const w = useWriting();
  const submit = useSubmit();
  const navigation = useNavigation();
  const busy = useBusy();
  const { head, lines, totals } = sheet;
  const key = useSubmissionKey(head.version);
  const [at, setAt] = useState(lines[0]?.id ?? null);
  const here = lines.find((l) => l.id === at) ?? lines[0];
  const send = (what: string) =>
    !busy && submit({ do: what, version: String(head.version), key: `${key()}${what}` }, { method: "post" });
  const canPlace = mayPlace && head.state === "Cleared";
  const canCancel = mayWrite && head.state === "Cleared";
  const move = (by: number) => {
    const i = lines.findIndex((l) => l.id === here?.id);
    setAt(lines[Math.max(0, Math.min(lines.length - 1, i + by))]?.id ?? null);
  };
  useKeys([
    { key: "arrowdown", label: "next line", run: () => move(1) },
    { key: "arrowup", label: "line before", run: () => move(-1) },
    ...(maySign ? [{ key: "y", label: "sign", run: () => void send("sign") }] : []),
    ...(canPlace ? [{ key: "p", label: "place the order", run: () => void send("place") }] : []),
  ]);
  const placing = busy && navigation.formData?.get("do") === "place";
  return (
    <Spread
      sheet={
        <div className="flex min-h-0 flex-1 flex-col">
          <div className="min-h-0 flex-1 overflow-y-auto">
            <SheetHead title={`Order ${head.name}`} sub={<span className="text-base">{head.supplierName}</span>}>
              <StateSquare state={head.state} />
            </SheetHead>
            <Stations sheet={sheet} />
            <Facts
              facts={[
                ["Deliver to", `${head.storeName} store`],
                ["Wanted by", w.day(head.required)],
                ["Terms", sees ? `${head.termsDays} days net, ${head.currency}` : "–"],
                ["Serves", serves(sheet)],
              ]}
            />
            <table className="w-full">
              <caption className="sr-only">Lines</caption>
              <Heads
                heads={[
                  { label: "#", width: "w-8" },
                  { label: "Item" },
                  { label: "Ordered", align: "right" },
                  ...(sees
                    ? [
                        { label: "Price", align: "right" as const },
                        { label: "Amount", align: "right" as const },
                      ]
                    : []),
                  { label: "Where it stands", width: "w-[22%]" },
                  { label: "Due", align: "right" },
                ]}
              />
              <tbody>
                {lines.map((l) => {
                  const due = l.promised ?? l.required;
                  const late = due < w.today && l.received < l.quantity && head.placed !== null;
                  const selected = l.id === here?.id;
                  return (
                    <tr
                      key={l.id}
                      aria-current={selected ? "true" : undefined}
                      onClick={() => setAt(l.id)}
                      className={`h-9 border-b border-rule-2 ${selected ? "bg-here" : ""}`}
                    >
                      <td
                        className={`pl-4.5 text-ink-3 ${selected ? "shadow-[inset_4px_0_0_var(--color-harbour)]" : ""}`}
                      >
                        {l.position}
                      </td>
                      <td className="px-2 py-1 leading-tight">
                        {l.words}
                        <span className="code block">
                          {[l.code, l.theirCode && `theirs ${l.theirCode}`].filter(Boolean).join(" · ") || "service"}
                        </span>
                      </td>
                      <td className="figure px-2 text-right whitespace-nowrap">
                        {w.quantity(l.quantity)} <span className="font-sans text-xs text-ink-3">{l.unit}</span>
                      </td>
                      {sees && (
                        <td className="figure px-2 text-right">
                          {l.price === null ? "–" : w.price(l.price, head.currency)}
                        </td>
                      )}
                      {sees && <td className="figure px-2 text-right">{w.money(l.net, head.currency)}</td>}
                      <td className="px-2">
                        <TallyStrip
                          ordered={l.quantity}
                          received={l.received}
                          late={late}
                          promised={l.promised !== null}
                          label={`${w.quantity(l.received)} of ${w.quantity(l.quantity)} ${l.unit} received`}
                        />
                      </td>
                      <td
                        className={`px-2 pr-4.5 text-right whitespace-nowrap ${late ? "font-semibold text-signal" : ""}`}
                      >
                        {l.received >= l.quantity ? "in" : w.day(due)}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
            {head.note && <p className="mx-4.5 my-3 border-l-2 border-ink pl-3 whitespace-pre-line">{head.note}</p>}
          </div>
          <div className="border-t border-rule px-4.5 py-2">
            <StripLegend />
          </div>
        </div>
      }
      slip={
        <>
          {maySign && (
            <>
              <SlipHead over="waits for you" title={`${w.amount(homeNet)} with ${head.supplierName}`}>
                <p className="mt-1 text-ink-2">
                  Written by {head.writerName}, {count(lines.length, "line")}, wanted by {w.day(head.required)}.
                </p>
              </SlipHead>
              <SendBack version={head.version} problem={problemAt(problems, "reason")} />
            </>
          )}
          {head.state === "Cleared" && mayPlace && (
            <SlipHead
              over="waits to be placed"
              title={
                contacts.length
                  ? `Goes to ${contacts.map((c) => c.name || c.mail).join(", ")}`
                  : "No address for orders"
              }
            >
              <p className="mt-1 text-ink-2">
                {contacts.length
                  ? `${contacts.map((c) => c.mail).join(", ")}, with the order as PDF. From then on nothing on it is deleted.`
                  : "An administrator adds one with the suppliers file."}
              </p>
            </SlipHead>
          )}
          {here && sees && here.priceSum && (
            <SlipPart title={`Line ${here.position}: ${sourceWords(here.priceSource)}`}>
              <SumSheet sum={here.priceSum} heading={false} />
            </SlipPart>
          )}
          {sees && <SumSheet sum={totals.sum} />}
          {head.state === "In sign-off" && needed?.sum && <SumSheet sum={needed.sum} />}
          {sees ? <Signatures signatures={sheet.signatures} /> : null}
          {sheet.receipts.length > 0 && (
            <SlipPart title="Counted in">
              <ul className="border border-rule bg-sheet">
                {sheet.receipts.map((r) => (
                  <li key={r.id} className="flex justify-between border-b border-rule-2 px-2.5 py-1 last:border-0">
                    <Link to={`/receipts/${r.id}`} className="underline">
                      {r.number}
                    </Link>
                    <span className="text-ink-2">
                      {w.day(r.day)}, {r.person}
                    </span>
                  </li>
                ))}
              </ul>
            </SlipPart>
          )}
          {sees && (
            <SlipPart title="Papers">
              <div className="flex flex-wrap items-center gap-2">
                <ButtonLink to={`/orders/${head.id}/paper.pdf`} reload>
                  {head.placed ? "The order as PDF" : "See it as PDF"}
                </ButtonLink>
                {sheet.mails.map((m) => (
                  <Link key={m.id} to={`/outbox?at=${m.id}`} className="underline">
                    e-mailed {w.moment(m.at)}
                  </Link>
                ))}
                {mayWrite && head.number && (
                  <Button disabled={busy} onClick={() => send("repeat")}>
                    Need the same again
                  </Button>
                )}
                {canCancel && (
                  <Button disabled={busy} onClick={() => send("delete")}>
                    Cancel this order
                  </Button>
                )}
              </div>
            </SlipPart>
          )}
        </>
      }
      tally={
        <TallyLine
          trouble={problemAt(problems, "")}
          keys={maySign ? [["y", "sign"]] : [["arrowdown", "move"]]}
          act={
            maySign ? (
              <Button look="main" hint="Y" disabled={busy} onClick={() => send("sign")}>
                Sign {w.amount(homeNet)}
              </Button>
            ) : (
              canPlace && (
                <Button look="main" hint="P" disabled={busy || contacts.length === 0} onClick={() => send("place")}>
                  {placing ? "Placing…" : "Place the order"}
                </Button>
              )
            )
          }
        >
          <span>{count(lines.length, "line")}</span>
          {sees && (
            <>
              <span>
                net <b className="figure">{w.amount(totals.net.minor, head.currency)}</b>
              </span>
              <span>
                tax <b className="figure">{w.amount(totals.tax.minor, head.currency)}</b>
              </span>
              <span>
                total <b className="figure">{w.amount(totals.total.minor, head.currency)}</b>
              </span>
            </>
          )}
        </TallyLine>
      }
    />
  );
}
