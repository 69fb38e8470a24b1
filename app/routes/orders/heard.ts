import { isRecord } from "../../../core/keys";
import type { Sent } from "../../web/sent";

const PART = /^(quantity|day)\.(\d+)$/;

/** Parts as a form sends them: "quantity.0", "day.0", "quantity.1", … */
export function partsSent(input: Sent): { quantity: string; day: string }[] {
  const parts: { quantity: string; day: string }[] = [];
  for (const [name, value] of Object.entries(isRecord(input) ? input : {})) {
    const [, field, at] = PART.exec(name) ?? [];
    if (!field) continue;
    const part = (parts[Number(at)] ??= { quantity: "", day: "" });
    if (field === "quantity") part.quantity = String(value);
    else part.day = String(value);
  }
  return parts.filter((p) => p !== undefined);
}

/** What we ask to be different of one line, or a line that we ask for besides, as their forms send it. */
export function changeOf(input: Sent): Sent {
  const { line, price = "", store = "" } = input;
  if (input.adds !== "yes")
    return { lines: [{ line, cannot: input.cannot === "yes", parts: partsSent(input), price, store }] };
  const { kind, code = "", words = "", unit, quantity = "", required = "" } = input;
  const what = kind === "item" ? { code } : { words, kind, ...(unit ? { unit } : {}) };
  return { lines: [], add: [{ ...what, quantity, required, price }] };
}

/** An answer that was heard, as its form sends it: of all lines as ordered, or of one line with parts "quantity.0", "day.0", … */
export function heardOf(input: Sent): Sent {
  if (input.of !== "line") return { ...input, all: true, lines: [] };
  const line = {
    line: input.line,
    cannot: input.cannot === "yes",
    parts: partsSent(input),
    price: input.price ?? "",
    instead: input.instead ?? "",
    charge: input.charge ?? "",
    chargeFor: input.chargeFor ?? "",
  };
  return { ...input, all: false, lines: [line] };
}
