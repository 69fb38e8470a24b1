import { Command } from "cmdk";
import { type RefObject, useEffect, useRef, useState } from "react";
import type { OrderId } from "../../../../core/ids";
import { count } from "../../../../core/text";
import type { Sold } from "../../../../server/queries/orders/sold";
import { answerOf } from "../../../ui/answer-of";
import { Button } from "../../../ui/button";
import { FileEntry } from "../../../ui/file-entry";
import { useWriting } from "../../../ui/locale";
import type { DraftWord } from "../keep";
import { pastedRows } from "./pasted-rows";
import type { Draft, DraftProblem } from "./use-draft";

const KINDS = [
  { value: "", label: "item" },
  { value: "not stocked", label: "goods in words" },
  { value: "service", label: "service" },
  { value: "charge", label: "charge" },
] as const;

/** The line that is entered next: what is typed of it, and what the server said to it. */
function useNewLine(draft: Draft, order: OrderId, entry: RefObject<HTMLInputElement | null>) {
  const [kind, setKind] = useState("");
  const [text, setText] = useState("");
  const [chosen, setChosen] = useState<Sold | null>(null);
  const [quantity, setQuantity] = useState("");
  const [price, setPrice] = useState("");
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState<DraftProblem[]>([]);
  const [said, setSaid] = useState("");
  const found = useSold(order, open && kind === "" ? text : null);
  const amount = useRef<HTMLInputElement>(null);
  const typed = useRef({ text, quantity, price });
  typed.current = { text, quantity, price };
  /** Empties the fields for the next line; what somebody typed while the line before it was kept, stays. */
  const clear = (sent: { text: string; quantity: string; price: string }) => {
    setWrong([]);
    const now = typed.current;
    const same = {
      text: now.text === sent.text,
      quantity: now.quantity === sent.quantity,
      price: now.price === sent.price,
    };
    if (same.text) setText("");
    if (same.text) setChosen(null);
    if (same.quantity) setQuantity("");
    if (same.price) setPrice("");
    if (same.text && same.quantity && same.price) entry.current?.focus();
  };
  const add = async (rows: Record<string, unknown>[]) => {
    const sent = typed.current;
    const problems = await draft.act({ do: "add" satisfies DraftWord, add: rows });
    if (problems) {
      setWrong(problems);
      setSaid("");
      return;
    }
    setSaid(`${count(rows.length, "line")} added.`);
    clear(sent);
  };
  const addFile = async (file: File, mark: string) => {
    const before = draft.lines.length;
    const problems = await draft.act({ do: "file" satisfies DraftWord, mark }, file);
    setWrong(problems ?? []);
    setSaid(problems ? "" : `The lines of ${file.name} were added below the ${before} that stood here.`);
  };
  const addTyped = () => {
    if (!text.trim()) return;
    void add([
      {
        ...(chosen ? { item: chosen.item } : kind ? { kind, words: text } : { code: text }),
        quantity,
        price,
      },
    ]);
  };
  const onEnter = (e: React.KeyboardEvent) => {
    if (e.key !== "Enter") return;
    e.preventDefault();
    addTyped();
  };
  const choose = (s: Sold) => {
    setChosen(s);
    setText(s.code);
    setOpen(false);
    amount.current?.focus();
  };
  return {
    kind,
    text,
    chosen,
    quantity,
    price,
    wrong,
    said,
    amount,
    listed: open && kind === "" ? found : [],
    setKind: (next: string) => {
      setKind(next);
      setChosen(null);
    },
    setText: (next: string) => {
      setText(next);
      setChosen(null);
      setOpen(true);
    },
    setOpen,
    setQuantity,
    setPrice,
    choose,
    add,
    addFile,
    addTyped,
    onEnter,
  };
}

/** The entry below the lines: code or words, Tab, quantity, Enter, and the next; or rows pasted from a spreadsheet. */
export function AddLine({
  draft,
  order,
  entry,
}: {
  draft: Draft;
  order: OrderId;
  entry: RefObject<HTMLInputElement | null>;
}) {
  const { currency } = draft.facts.head;
  const line = useNewLine(draft, order, entry);
  const { kind, text, chosen, quantity, price, wrong, said, amount, addTyped, onEnter } = line;
  const [mark, setMark] = useState("");
  const at = (field: string) => wrong.find((p) => p.field.endsWith(`.${field}`))?.says;
  return (
    <div className="border-b border-rule bg-band px-4.5 py-2">
      <div className="grid grid-cols-[128px_minmax(0,1fr)_88px_104px_auto] items-start gap-2 max-md:grid-cols-2">
        <select
          aria-label="Kind of the new line"
          value={kind}
          onChange={(e) => line.setKind(e.target.value)}
          className="entry"
        >
          {KINDS.map((k) => (
            <option key={k.value} value={k.value}>
              {k.label}
            </option>
          ))}
        </select>
        <WhatTheySell
          entry={entry}
          currency={currency}
          text={text}
          listed={line.listed}
          offers={kind === ""}
          wrong={wrong.length > 0}
          onText={line.setText}
          onOpen={line.setOpen}
          onChoose={line.choose}
          onEnter={onEnter}
          onRows={(rows) => void line.add(rows)}
        />
        <input
          ref={amount}
          aria-label="Quantity of the new line"
          value={quantity}
          onChange={(e) => line.setQuantity(e.target.value)}
          onKeyDown={onEnter}
          placeholder={chosen ? chosen.unit : "quantity"}
          inputMode="decimal"
          maxLength={20}
          aria-invalid={at("quantity") ? true : undefined}
          className="entry text-right font-mono"
        />
        <input
          aria-label={`Price of the new line in ${currency}`}
          value={price}
          onChange={(e) => line.setPrice(e.target.value)}
          onKeyDown={onEnter}
          placeholder="price"
          inputMode="decimal"
          maxLength={20}
          aria-invalid={at("price") ? true : undefined}
          className="entry text-right font-mono"
        />
        <Button disabled={draft.working || !text.trim()} onClick={addTyped}>
          Add
        </Button>
      </div>
      <div className="mt-1 flex min-h-7 items-center gap-3">
        <p id="add-line-about" className="min-w-0 flex-1 text-xs" aria-live="polite">
          <AddedWords wrong={wrong} chosen={chosen} said={said} />
        </p>
        <label className="flex items-center gap-2 text-xs text-ink-2">
          numbers
          <select
            aria-label="Numbers in the file are written"
            value={mark}
            onChange={(e) => setMark(e.target.value)}
            className="border-b border-ink-3 bg-transparent"
          >
            <option value="">as the file tells</option>
            <option value="point">with a point, 12.5</option>
            <option value="comma">with a comma, 12,5</option>
          </select>
        </label>
        <span className="flex items-center gap-2 text-xs text-ink-2">
          lines from a file
          <FileEntry
            label="Lines from a CSV or XLSX file"
            accept=".csv,.xlsx"
            disabled={draft.working}
            onFile={(file) => void line.addFile(file, mark)}
          />
        </span>
      </div>
    </div>
  );
}

/** Code or words, with what the supplier sells below it. */
function WhatTheySell({
  entry,
  currency,
  text,
  listed,
  offers,
  wrong,
  onText,
  onOpen,
  onChoose,
  onEnter,
  onRows,
}: {
  entry: RefObject<HTMLInputElement | null>;
  currency: string;
  text: string;
  listed: readonly Sold[];
  /** Items are offered; else it is typed in words. */
  offers: boolean;
  wrong: boolean;
  onText: (text: string) => void;
  onOpen: (open: boolean) => void;
  onChoose: (sold: Sold) => void;
  onEnter: (e: React.KeyboardEvent) => void;
  /** Rows of a spreadsheet were pasted. */
  onRows: (rows: Record<string, string>[]) => void;
}) {
  const w = useWriting();
  return (
    <Command
      shouldFilter={false}
      label="New line"
      className="relative"
      onKeyDown={(e) => {
        if (e.key === "Escape") onOpen(false);
        if (e.key === "ArrowDown" && offers) onOpen(true);
        if (e.key === "Enter" && listed.length === 0) onEnter(e);
      }}
    >
      <Command.Input
        ref={entry}
        value={text}
        onValueChange={onText}
        onBlur={() => onOpen(false)}
        onPaste={(e) => {
          const pasted = e.clipboardData.getData("text");
          if (!/[\t\n]/.test(pasted.trim())) return;
          e.preventDefault();
          onRows(pastedRows(pasted));
        }}
        placeholder={offers ? "code or name; ↓ shows what they sell; or paste rows" : "in your words"}
        aria-invalid={wrong || undefined}
        aria-describedby="add-line-about"
        className="entry w-full"
      />
      <Command.List
        aria-label="What they sell"
        onMouseDown={(e) => e.preventDefault()}
        className={`absolute inset-x-0 bottom-full z-20 max-h-72 overflow-y-auto border border-ink bg-sheet ${listed.length > 0 ? "" : "hidden"}`}
      >
        {listed.map((s) => (
          <Command.Item
            key={s.item}
            value={String(s.item)}
            onSelect={() => onChoose(s)}
            className="flex items-baseline gap-3 px-2 py-1 data-[selected=true]:bg-here"
          >
            <span className="code w-20 shrink-0">{s.code}</span>
            <span className="truncate">{s.name}</span>
            <span className="ml-auto shrink-0 text-xs text-ink-3">
              {s.own
                ? [s.here > 0 && "on this order", s.price !== null && `${w.price(s.price, currency)} / ${s.unit}`]
                    .filter(Boolean)
                    .join(" · ") || s.unit
                : "not from their list"}
            </span>
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}

const MOST_SAID = 6;

/** What is wrong with what was typed or pasted, or else what became of it. */
function AddedWords({ wrong, chosen, said }: { wrong: readonly DraftProblem[]; chosen: Sold | null; said: string }) {
  if (wrong.length === 0)
    return chosen ? <span className="text-ink-2">{chosen.name}</span> : <span className="text-ink-3">{said}</span>;
  return (
    <span className="font-semibold text-signal">
      {wrong
        .slice(0, MOST_SAID)
        .map((p) => {
          const row = /^add\.(\d+)\./.exec(p.field)?.[1];
          return row !== undefined && wrong.length > 1 ? `Row ${Number(row) + 1}: ${p.says}` : p.says;
        })
        .join(" ")}
      {wrong.length > MOST_SAID && ` And ${wrong.length - MOST_SAID} more.`}
    </span>
  );
}

/** What the order's supplier sells, for a text; null asks nothing. */
export function useSold(order: OrderId, text: string | null, most = 10): Sold[] {
  const [found, setFound] = useState<Sold[]>([]);
  useEffect(() => {
    if (text === null) {
      setFound([]);
      return;
    }
    const stop = new AbortController();
    const wait = setTimeout(async () => {
      try {
        const answer = await fetch(`/orders/${order}/lines?most=${most}&text=${encodeURIComponent(text.trim())}`, {
          signal: stop.signal,
        });
        setFound(answer.ok && !answer.redirected ? await answerOf<Sold[]>(answer) : []);
      } catch {
        // Somebody typed on, or there is no connection: then nothing is offered.
      }
    }, 80);
    return () => {
      stop.abort();
      clearTimeout(wait);
    };
  }, [order, text, most]);
  return found;
}
