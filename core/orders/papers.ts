import { isOneOf, keysOf } from "../keys";
import { ORDER_KINDS, type OrderKind } from "./kinds";

/** How the papers of orders look, and what is written on them and with them. */

/** The languages that a paper may be written in, by ISO 639-1. */
export const LANGUAGES = { en: "English", de: "Deutsch", fr: "Français", nl: "Nederlands" } as const;
export type Language = keyof typeof LANGUAGES;
export const LANGUAGE_CODES = keysOf(LANGUAGES);

/** A standing list never leaves the house; every other kind has a paper. */
export type PaperKind = Exclude<OrderKind, "standing">;
export const PAPER_KINDS = ORDER_KINDS.filter((k): k is PaperKind => k !== "standing");
export const paperKind = (kind: OrderKind): PaperKind => (kind === "standing" ? "one-off" : kind);

/** What a line may show beside the goods and the quantity, in this order. */
export const PAPER_COLUMNS = {
  theirs: "their code",
  ours: "our code",
  notes: "notes",
  wanted: "wanted by",
  tax: "tax rate",
  price: "price",
  discount: "discount",
  amount: "amount",
} as const;
export type PaperColumn = keyof typeof PAPER_COLUMNS;
export const PAPER_COLUMN_NAMES = keysOf(PAPER_COLUMNS);

export interface PaperLayout {
  columns: PaperColumn[];
  /** Without prices, nothing on the paper says what it costs. */
  prices: boolean;
}
export const USUAL_LAYOUT: PaperLayout = {
  columns: ["theirs", "ours", "notes", "wanted", "price", "discount", "amount"],
  prices: true,
};

/** The texts of a kind of paper in a language: on the paper, and of the e-mail that brings it. */
export const PAPER_TEXTS = ["above", "below", "foot", "subject", "message"] as const;
export type PaperText = (typeof PAPER_TEXTS)[number];
export type PaperTexts = Record<PaperText, string>;

/** What may stand in braces within a text, and what it becomes. */
export const PLACEHOLDERS = {
  number: "the order’s number",
  title: "what the paper is, with its number",
  supplier: "the supplier",
  contact: "who gets it",
  greeting: "a greeting, with the name where one is known",
  lines: "how many lines it has",
  wanted: "the day it is wanted by",
  place: "where the goods go",
  starts: "the first day of a blanket order",
  ends: "the last day of a blanket order",
  total: "the total with its currency",
  payment: "the terms of payment",
  company: "our company",
  writer: "the buyer",
  function: "what the buyer does with us",
  link: "the private link to the order",
} as const;
export type Placeholder = keyof typeof PLACEHOLDERS;

const BRACED = /\{([^{}\n]*)\}/g;

/** Words in braces that stand for nothing, in the order in which they come. */
export const unknownPlaceholders = (text: string): string[] => [
  ...new Set([...text.matchAll(BRACED)].map((m) => m[1]!).filter((name) => !(name in PLACEHOLDERS))),
];

/**
 * Puts values in for the placeholders of a text. A line with a placeholder that has nothing to say is left out, so that
 * no paper reads "at the latest by ."; at most one empty line is left where lines went.
 */
export function fillPlaceholders(text: string, values: Partial<Record<Placeholder, string>>): string {
  const lines = text.split("\n").flatMap((line) => {
    let empty = false;
    const filled = line.replace(BRACED, (all, name: string) => {
      if (!isOneOf(keysOf(PLACEHOLDERS), name)) return all;
      const value = values[name] ?? "";
      if (value === "") empty = true;
      return value;
    });
    return empty ? [] : [filled];
  });
  return lines
    .join("\n")
    .replace(/\n{3,}/g, "\n\n")
    .trim();
}
