import type { Counted, Dimension, SpendMeasure } from "./breakdown";

/** What a breakdown is called by its parts, on screens, in files and in letters. */
export const MEASURE_WORDS: Record<SpendMeasure, string> = {
  asked: "asked for",
  ordered: "ordered",
  "to come": "still to come",
  received: "received",
  invoiced: "invoiced",
};
export const COUNT_WORDS: Record<Counted, string> = {
  value: "what it comes to",
  lines: "how many lines",
  papers: "how many papers",
};
export const DIMENSION_WORDS: Record<Dimension, string> = {
  supplier: "supplier",
  category: "category",
  item: "item",
  store: "store",
  buyer: "buyer",
  department: "department",
  job: "job",
  vessel: "vessel",
  budget: "budget line",
  kind: "kind of line",
  month: "month",
  quarter: "quarter",
  year: "year",
};
/** A value of a dimension as it is written here: months by their names, kinds of lines in words. */
export function valueWords(d: Dimension, { key, label }: { key: string; label: string }, locale: string): string {
  if (d === "month" && /^\d{4}-\d\d$/.test(key))
    return new Date(`${key}-01T00:00:00Z`).toLocaleDateString(locale, {
      month: "short",
      year: "2-digit",
      timeZone: "UTC",
    });
  return d === "quarter" ? key.replace(/^(\d{4})-Q(\d)$/, "Q$2 $1") : label;
}
