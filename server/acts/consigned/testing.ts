import { addDays, type Day, toDay } from "../../../core/calendar/day";
import { sql } from "../../db/open";
import { type TestHouse, TODAY } from "../../testing";
import type { Desk, Done } from "../desk";
import { sign } from "../signoff/sign";
import { keepAgreement, startAgreement } from "./keep-agreement";
import { registerDelivery } from "./register";
import { submitAgreement } from "./submit-agreement";

/** A desk on another day. */
export const on = (desk: Desk, day: string): Desk => ({ ...desk, day: toDay(day), now: `${day}T09:00:00.000Z` });

const must = <T>(answer: Done<T>): T => {
  if (!answer.ok) throw new Error(JSON.stringify(answer.problems));
  return answer.value;
};

/** An agreement with Brannock about anodes at the quay, as it is typed. */
export const terms = (h: TestHouse, agreement: number, version = 1) => ({
  agreement,
  version,
  starts: "2026-01-01",
  ends: "2026-12-31",
  oursAfter: "90",
  first: "theirs",
  settles: "month",
  bears: "us",
  place: "",
  binsFrom: "",
  binsTo: "",
  note: "",
  items: [
    {
      item: h.id("item", "ANO"),
      least: "10",
      most: "200",
      pack: "5",
      refillDays: "7",
      prices: [{ day: "", price: "30.00" }],
    },
  ],
});

/** An agreement that runs; `more` is typed otherwise. */
export function runningAgreement(h: TestHouse, more: object = {}, supplier = "BAW"): number {
  const { agreement } = must(
    startAgreement(h.desk("ines"), { supplier: h.id("supplier", supplier), store: h.id("store", "TQ") }),
  );
  must(keepAgreement(h.desk("ines"), { ...terms(h, agreement), ...more }));
  must(submitAgreement(on(h.desk("ines"), "2026-01-01"), { agreement, version: 2 }));
  signWhole(h, agreement);
  return agreement;
}

/** Whoever is asked signs, until it runs. */
export function signWhole(h: TestHouse, agreement: number): void {
  for (const login of ["maud", "halden"]) {
    const of = sql<{ state: string; version: number }>(h.db, "SELECT state, version FROM agreement WHERE id = ?").get(
      agreement,
    )!;
    if (of.state === "In sign-off")
      must(sign(on(h.desk(login), "2026-01-01"), { paper: "agreement", id: agreement, version: of.version }));
  }
}

/** So many anodes of Brannock's come on a day. */
export const bring = (
  h: TestHouse,
  agreement: number,
  quantity: string,
  day: Day | string,
  more: object = {},
  head: object = {},
) =>
  registerDelivery(on(h.desk("tobias"), day), {
    agreement,
    note: `LS-${day}`,
    rows: [{ item: h.id("item", "ANO"), quantity, ...more }],
    ...head,
  });

/** What is left of their deliveries, the oldest first; whole units. */
export const left = (h: TestHouse): number[] =>
  sql<{ n: number }>(h.db, "SELECT rest / 10000 AS n FROM consigned_layer ORDER BY day, id")
    .all()
    .map((r) => r.n);

export const YESTERDAY = addDays(TODAY, -1);
