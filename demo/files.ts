import { stringify } from "csv-stringify/sync";
import { addDays, type Day } from "../core/calendar/day";
import { COLUMNS, type FileKind } from "../exchange/csv/kinds";
import { ACCOUNTS, ALTERNATIVES, BUDGETS, type DemoItem, ITEMS, JOBS, LOTS, OUTPUTS, SERVICES } from "./catalogue";
import { chance } from "./chance";
import { RATES, STORES, SUPPLIERS } from "./company";
import { roseOf } from "./past";

const places = (n: number, digits: number) => String(Number(n.toFixed(digits)));
const unitsUp = (n: number) => Math.max(1, Math.ceil(n));
const RATE = new Map<string, number>([["EUR", 1], ...RATES.map(([c, r]): [string, number] => [c, Number(r)])]);

/** When to reorder an item at a store: about lead time and two weeks of use; a lot of about six weeks in whole packs. */
export function settingsOf(item: DemoItem, store: string) {
  const share = item.stores.length === 1 ? 1 : store === item.stores[0]!.code ? 0.7 : 0.3 / (item.stores.length - 1);
  const offer = item.offers[0]!;
  const daily = (item.weekly * share) / 7;
  const point = unitsUp(daily * (offer.lead + 14));
  const lot = unitsUp((daily * 42) / offer.factor) * offer.factor;
  return {
    daily,
    point,
    lot,
    policy: item.category === "Galley" || item.category === "Safety" ? "top up" : "larger of",
  };
}

/** What is on hand today: below the reorder point where the catalogue says so, else comfortably above. */
export function onHandOf(item: DemoItem, store: string): number {
  const roll = chance(hash(`${item.code}${store}`));
  const { point, lot } = settingsOf(item, store);
  if (item.code === "HYD-046" && store === "TQ") return 340;
  if (item.code === "ANO-11W" && store === "HS") return 18;
  const low = item.stores.find((s) => s.code === store)?.low ?? false;
  return low
    ? Math.max(1, Math.floor(point * roll.between(0.45, 0.9)))
    : unitsUp(point * roll.between(1.25, 1.7) + lot * roll.between(0.1, 0.8));
}

/** Where an item lies: groups have an aisle each. */
export const demoBin = (i: Pick<DemoItem, "category" | "code">): string =>
  `${"ABCDEFGH"[hash(i.category) % 8]}${(hash(i.code) % 24) + 1}`;

export function hash(text: string): number {
  let h = 2166136261;
  for (const c of text) h = Math.imul(h ^ c.charCodeAt(0), 16777619);
  return h >>> 0;
}

function rows(kind: FileKind, today: Day): Record<string, string | number>[] {
  switch (kind) {
    case "stores":
      return STORES.map((s) => ({ ...s }));
    case "rates":
      return RATES.map(([currency, rate]) => ({ currency, day: addDays(today, -600), rate }));
    case "items":
      return [
        ...ITEMS.map((i) => ({
          code: i.code,
          name: i.name,
          kind: "stocked",
          category: i.category,
          unit: i.unit,
          tax: 20,
          reference_cost: places(i.cost, 4),
          account: "4100",
          by_lot: LOTS.some((l) => l.item === i.code) ? "yes" : "no",
        })),
        ...SERVICES.map((s) => ({
          code: s.code,
          name: s.name,
          kind: s.kind,
          category: "Services",
          unit: s.unit,
          tax: 20,
          reference_cost: s.cost,
          account: "4620",
          by_lot: "no",
        })),
      ];
    case "suppliers":
      return SUPPLIERS.map((s) => ({
        code: s.code,
        name: s.name,
        address: s.address,
        currency: s.currency,
        terms_days: s.terms,
        lead_days_are: s.lead,
        delivers: s.delivers,
        taxed: s.taxed ? "yes" : "no",
        contact: s.contact,
        region: s.region ?? "",
        cut_off: s.cutOff ?? "",
        buyer: s.buyer ?? "",
        order_mails: `orders@${s.code.toLowerCase()}.example`,
        order_minimum: s.minimum ?? 0,
        freight: s.freight ?? 0,
        freight_free_from: s.freeFrom ?? "",
      }));
    case "sourcing":
      return [
        ...ITEMS.flatMap((i) =>
          i.offers.map((o, rank) => ({
            item: i.code,
            supplier: o.supplier,
            their_code: `${o.supplier.slice(0, 2)}-${(hash(i.code + o.supplier) % 9000) + 1000}`,
            their_name: i.name,
            unit: o.unit,
            factor: o.factor,
            minimum: o.supplier === "QUO" ? 2 : 0,
            multiple: 0,
            broken_packs: "no",
            lead_days: o.lead,
            discount: o.supplier === "BAW" ? 2 : 0,
            rank: rank + 1,
          })),
        ),
        ...SERVICES.map((s) => ({
          item: s.code,
          supplier: s.supplier,
          unit: s.unit,
          factor: 1,
          lead_days: s.lead,
          rank: 1,
        })),
      ];
    case "prices":
      return [
        ...ITEMS.flatMap((i) =>
          i.offers.flatMap((o) => {
            const one = (i.cost * o.factor * o.against) / RATE.get(currencyOf(o.supplier))!;
            const price = (less: number) => places(one * less, one < 10 ? 4 : 2);
            const bulk =
              i.category === "Lubricants"
                ? [5, 10]
                : i.category === "Anodes" || i.category === "Filters"
                  ? [25, 50]
                  : [];
            const now = [
              { item: i.code, supplier: o.supplier, from: 1, less: 1 },
              ...bulk.map((from, n) => ({ item: i.code, supplier: o.supplier, from, less: n ? 0.91 : 0.955 })),
            ];
            // Whose list rose has the one of before beside it, each with its days.
            const rose = roseOf(o.supplier);
            return now.flatMap(({ less, ...row }) => {
              if (!rose) return [{ ...row, price: price(less) }];
              const since = addDays(today, -rose.daysAgo);
              return [
                { ...row, price: price((less * 10_000) / (10_000 + rose.bp)), valid_to: addDays(since, -1) },
                { ...row, price: price(less), valid_from: since },
              ];
            });
          }),
        ),
        ...SERVICES.map((s) => ({ item: s.code, supplier: s.supplier, from: 1, price: s.cost })),
      ];
    case "stock":
      return ITEMS.flatMap((i) =>
        i.stores.map(({ code }) => {
          const { point, lot, policy } = settingsOf(i, code);
          return {
            item: i.code,
            store: code,
            on_hand: onHandOf(i, code),
            bin: demoBin(i),
            policy,
            reorder_point: point,
            lot: policy === "top up" ? "" : lot,
            level: policy === "top up" ? point + lot : "",
            maximum: "",
            review_days: 7,
          };
        }),
      );
    case "accounts":
      return ACCOUNTS.map(([code, name]) => ({ code, name }));
    case "budgets": {
      const season = Number(today.slice(5, 7)) >= 8 ? Number(today.slice(0, 4)) : Number(today.slice(0, 4)) - 1;
      return BUDGETS.map(([code, name, amount]) => ({
        code,
        name,
        starts: `${season}-08-01`,
        ends: `${season + 1}-07-31`,
        amount,
      }));
    }
    case "alternatives":
      return ALTERNATIVES.map((a) => ({
        item: a.item,
        other: a.other,
        both_ways: a.both ? "yes" : "no",
        note: a.note,
      }));
    case "lots":
      return LOTS.map((l) => ({
        item: l.item,
        store: l.store,
        lot: l.lot,
        on_hand: Math.floor(onHandOf(ITEMS.find((i) => i.code === l.item)!, l.store) * l.share),
        expires: addDays(today, l.inDays),
        held: l.held,
      }));
    case "outputs":
      return OUTPUTS.map((o) => ({
        job: o.job,
        item: o.item,
        store: o.store,
        due: addDays(today, o.inDays),
        quantity: o.quantity,
      }));
    case "needs":
      return [
        { item: "LUB-PEN", store: "HS", quantity: 2, unit: "case", needed_by: addDays(today, 17), note: "refit list" },
        { item: "GLV-NIT", store: "HS", quantity: 600, unit: "", needed_by: addDays(today, 17), note: "refit list" },
      ];
    // History is written day by day, and no orders were brought from a system before.
    case "usage":
    case "orders":
      return [];
    case "jobs":
      return JOBS.flatMap((j) =>
        j.lines.map(([item, store, inDays, quantity]) => ({
          job: j.code,
          name: j.name,
          vessel: j.vessel,
          item,
          store,
          due: addDays(today, inDays),
          quantity,
          issued: 0,
          kind: j.kind ?? "job",
        })),
      );
  }
}

export const currencyOf = (supplier: string) => SUPPLIERS.find((s) => s.code === supplier)!.currency;

/** The made-up company as one of the files that an administrator loads. */
export const demoFile = (kind: FileKind, today: Day) =>
  stringify(rows(kind, today), { header: true, columns: COLUMNS[kind].map((c) => c.name) });
