import { useState } from "react";
import { Link } from "react-router";
import type { ItemId } from "../../../core/ids";
import type { ItemSheet } from "../../../server/queries/records/item";
import { SlipForm } from "../../parts/slip-form";
import { SlipPart } from "../../ui/frame-parts";
import { ItemEntry } from "../../ui/item-entry";
import { useWriting } from "../../ui/locale";
import type { ItemWord } from "./item-acts";

/** The last prices paid, to anybody. */
export function PaidPart({ paid }: { paid: NonNullable<ItemSheet["paid"]> }) {
  const w = useWriting();
  return (
    <SlipPart title="Last prices paid">
      <table className="w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">Last prices paid</caption>
        <tbody>
          {paid.map((p) => (
            <tr key={p.order} className="border-b border-rule-2 last:border-0">
              <td className="py-1 pl-2.5 whitespace-nowrap">{w.day(p.day, false)}</td>
              <td className="max-w-32 truncate px-2">
                <Link className="underline" to={`/orders/${p.order}`}>
                  {p.number}
                </Link>{" "}
                {p.supplier}
              </td>
              <td className="figure pr-2.5 text-right whitespace-nowrap">
                {w.price(p.price, p.currency)}{" "}
                <span className="font-sans text-2xs text-ink-3">
                  {p.currency}/{p.unit}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </SlipPart>
  );
}

/** What may stand in for an item. */
export function Alternatives({
  item,
  rows,
  mayKeep,
}: {
  item: ItemId;
  rows: ItemSheet["alternatives"];
  mayKeep: boolean;
}) {
  const [text, setText] = useState("");
  const [other, setOther] = useState<number | null>(null);
  if (rows.length === 0 && !mayKeep) return null;
  return (
    <SlipPart title="What may stand in for it">
      {rows.length > 0 && (
        <ul className="border border-rule bg-sheet">
          {rows.map((a) => (
            <li key={a.item} className="border-b border-rule-2 px-2.5 py-1 text-xs last:border-0">
              <Link className="font-semibold underline" to={`/items/${a.item}`}>
                {a.name}
              </Link>{" "}
              <span className="code">{a.code}</span>
              {a.note && <p className="text-ink-2">{a.note}</p>}
              {mayKeep && (
                <SlipForm<ItemWord>
                  does="drop alternative"
                  fields={{ item, other: a.item }}
                  label="Not any more…"
                  send="Take it away"
                >
                  <p>It will no longer be offered in its place.</p>
                </SlipForm>
              )}
            </li>
          ))}
        </ul>
      )}
      {mayKeep && (
        <SlipForm<ItemWord>
          does="keep alternative"
          fields={{ other: other ?? "" }}
          label="Name another…"
          send="Keep it"
        >
          <ItemEntry
            label="Which item"
            text={text}
            placeholder="item code or name"
            onText={(t) => {
              setText(t);
              setOther(null);
            }}
            onItem={(f) => {
              setText(f.name);
              setOther(f.id);
            }}
            invalid={false}
          />
          <input
            name="note"
            aria-label="What to mind"
            placeholder="what to mind"
            maxLength={200}
            className="entry w-full"
          />
          <label className="flex items-center gap-2 text-xs">
            <input type="checkbox" name="bothWays" className="accent-harbour" />
            each may stand in for the other
          </label>
        </SlipForm>
      )}
    </SlipPart>
  );
}
