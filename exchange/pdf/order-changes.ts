import type { LineBefore, OrderDocument } from "./order-document";

type Line = OrderDocument["lines"][number];

/** How a line of one version differs from the same line of another. */
export type LineDifference =
  | { kind: "new"; line: Line }
  | { kind: "gone"; line: Line }
  | { kind: "changed"; line: Line; before: LineBefore };

const partsOf = (l: Line) =>
  l.instalments?.length
    ? l.instalments.map(({ quantity, required }) => ({ quantity, required }))
    : [{ quantity: l.quantity, required: l.required }];
const asBefore = (l: Line): LineBefore => ({
  quantity: l.quantity,
  price: l.price,
  discount: l.discount,
  parts: partsOf(l),
  to: l.deliverTo?.name ?? null,
});
const same = (a: Line, b: Line) => JSON.stringify(asBefore(a)) === JSON.stringify(asBefore(b));

/** Lines of documents that were kept without ids are found by their place. */
const keyOf = (l: Line) => (l.line === undefined ? `at ${l.position}` : String(l.line));
const byKey = (d: OrderDocument, by: (l: Line) => string) => new Map(d.lines.map((l) => [by(l), l]));

/** What of the lines differs between two versions, in the order of the later one; what is gone stands last. */
export function differencesOf(before: OrderDocument, after: OrderDocument): LineDifference[] {
  const by = [...before.lines, ...after.lines].every((l) => l.line !== undefined)
    ? keyOf
    : (l: Line) => String(l.position);
  const [was, is] = [byKey(before, by), byKey(after, by)];
  const changed = after.lines.flatMap((line): LineDifference[] => {
    const old = was.get(by(line));
    if (!old) return [{ kind: "new", line }];
    return same(old, line) ? [] : [{ kind: "changed", line, before: asBefore(old) }];
  });
  const gone = before.lines.filter((l) => !is.has(by(l))).map((line): LineDifference => ({ kind: "gone", line }));
  return [...changed, ...gone];
}

/** A document as the next version of another: its lines say how they stood before. */
export function asVersion(after: OrderDocument, before: OrderDocument, version: number): OrderDocument {
  const differences = differencesOf(before, after);
  const of = (l: Line) => differences.find((d) => d.kind !== "gone" && d.line === l);
  return {
    ...after,
    version,
    lines: after.lines.map((l) => {
      const d = of(l);
      return d === undefined ? l : { ...l, before: d.kind === "changed" ? d.before : null };
    }),
    gone: differences.flatMap((d) => (d.kind === "gone" ? [{ position: d.line.position, words: d.line.words }] : [])),
  };
}
