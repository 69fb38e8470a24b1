import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays, toDay } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { BasisPoints } from "../../../core/numbers/money";
import { type Signer, WIDE } from "../../../core/signoff/rulebook";
import { addLines } from "../../acts/orders/add-lines";
import { startOrder } from "../../acts/orders/start-order";
import { submitOrder } from "../../acts/orders/submit-order";
import { keepAbsence } from "../../acts/settings/keep-absence";
import { sign, signByLink } from "../../acts/signoff/sign";
import { sql } from "../../db/open";
import { readSignings } from "../../queries/signoff/signings";
import { keepRules, must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { tickSignOff } from "./clock";
import { mailSignOff } from "./mail";

let h: TestHouse;
const team = (n: number): Signer => ({ kind: "team", team: n, all: false });
beforeEach(() => {
  h = testHouse();
  keepRules(h.db, {
    allowance: { percent: 200 as BasisPoints, amount: 10_000 },
    ladders: [
      {
        id: 1,
        name: "Orders",
        papers: ["order"],
        ...WIDE,
        rungs: [{ upTo: null, who: team(1), hours: 4, climbsTo: team(2) }],
      },
    ],
  });
});
afterEach(() => h.close());

const NONE = { reminded: 0, climbed: 0, unattended: 0 };
const paper = (id: number) => ({ paper: "order" as const, id, version: versionOf(h.db, "purchase_order", id) });
/** An order that was handed in at nine. */
const waiting = (price = "900") => {
  const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
  const desk = () => ({ ...h.desk("ines"), now: `${TODAY}T09:00:00.000Z` });
  const { order } = must(startOrder(desk(), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }));
  must(addLines(desk(), { ...at(order), add: [{ code: "OIL", quantity: "1", price }] }));
  must(submitOrder(desk(), at(order)));
  return order;
};
const tick = (time: string, day = TODAY) => tickSignOff(h.db, `${day}T${time}:00.000Z`, day);
const told = (login: string) =>
  sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ? ORDER BY id")
    .all(h.id("person", login))
    .map((n) => n.text);
const acts = () =>
  sql<{ act: string }>(h.db, "SELECT act FROM audit WHERE act LIKE 'sign-off.%' ORDER BY id")
    .all()
    .map((a) => a.act);

describe("the clock of sign-off", () => {
  it("reminds at half, climbs at the end, tells both, and does each once, even where the clock is set back", () => {
    const order = waiting();
    expect(tick("10:59")).toEqual(NONE);
    expect(tick("11:00")).toEqual({ ...NONE, reminded: 1 });
    expect(tick("11:00")).toEqual(NONE);
    expect(tick("10:00")).toEqual(NONE);
    expect(tick("13:00")).toEqual({ ...NONE, climbed: 1 });
    expect(tick("13:30")).toEqual(NONE);
    expect(tick("09:30")).toEqual(NONE);
    expect(acts()).toEqual(["sign-off.reminded", "sign-off.climbed"]);
    expect(told("maud")).toEqual([
      "Order 26-1001 waits for your signature",
      "Order 26-1001 still waits for your signature",
      "Order 26-1001 climbed to Halden",
    ]);
    expect(told("halden")).toEqual(["Order 26-1001 waits for your signature"]);
    must(sign(h.desk("halden"), paper(order)));
    expect(stateOf(h.db, "purchase_order", order)).toBe("Cleared");
    expect(readSignings(h.db, "order", order)[0]!.seats[0]).toMatchObject({
      people: [
        { name: "Maud", how: "asked" },
        { name: "Halden", how: "climbed" },
      ],
    });
  });

  it("leaves what somebody is looking at to be signed", () => {
    const order = waiting();
    const seen = paper(order);
    tick("11:00");
    tick("13:00");
    must(sign(h.desk("maud"), seen));
    expect(stateOf(h.db, "purchase_order", order)).toBe("Cleared");
  });

  it("makes up after a stop for what it missed, and leaves a signed paper alone", () => {
    const late = waiting();
    const signed = waiting("950");
    must(sign(h.desk("maud"), paper(signed)));
    expect(tick("15:00", addDays(TODAY, 2))).toEqual({ ...NONE, climbed: 1 });
    expect(readSignings(h.db, "order", late)[0]!.seats[0]!.reminded).toBeNull();
  });

  it("runs by the hours of whoever is asked", () => {
    sql(h.db, "UPDATE person SET day_starts = 780, day_ends = 1020 WHERE login = 'maud'").run(); // 13 to 17
    const order = waiting();
    expect(readSignings(h.db, "order", order)[0]!.seats[0]!.due).toBe(`${TODAY}T17:00:00.000Z`);
    expect(tick("14:59")).toEqual(NONE);
    expect(tick("15:00")).toEqual({ ...NONE, reminded: 1 });
  });

  it("tells the administrators where nobody is there, once", () => {
    must(keepAbsence(h.desk("maud"), { person: "", standIn: "", starts: TODAY, ends: addDays(TODAY, 9) }));
    waiting();
    expect(tick("09:10")).toEqual({ ...NONE, unattended: 1 });
    expect(tick("09:20")).toEqual(NONE);
    expect(told("osk")).toEqual(["Order 26-1001 waits, and nobody is there who could sign as the yard manager"]);
  });

  it("does not climb to the writer, and tells the administrators instead", () => {
    sql(h.db, "DELETE FROM team_member WHERE team = 2").run();
    waiting();
    expect(tick("13:00")).toEqual({ ...NONE, unattended: 1 });
    expect(tick("13:10")).toEqual(NONE);
    expect(told("osk")[0]).toMatch(/nobody it could climb to/);
  });
});

describe("the e-mail that asks for a signature", () => {
  const mails = () =>
    sql<{ recipients: string; subject: string; eml: Buffer }>(
      h.db,
      "SELECT recipients, subject, eml FROM mail ORDER BY id",
    ).all();
  const post = (time = "09:05", day = TODAY) =>
    mailSignOff(h.db, `${day}T${time}:00.000Z`, day, "https://tally.example");
  const linkIn = (eml: Buffer) => {
    const text = eml.toString().replace(/=\r\n/g, "").replace(/=3D/g, "=");
    return /https:\/\/tally\.example\/sign-off\/link\/([\w-]+)/.exec(text)![1]!;
  };
  const by = (login: string, link: string, version: number, day = TODAY) =>
    signByLink({ ...h.desk(login), now: `${day}T10:00:00.000Z`, day }, { link, version });

  it("goes out once with the essentials, and once more with the reminder", async () => {
    waiting();
    expect(await post()).toBe(1);
    expect(await post()).toBe(0);
    expect(acts()).toEqual(["sign-off.mailed"]);
    const [mail] = mails();
    expect(mail).toMatchObject({
      recipients: "maud@kelpholm.example",
      subject: "Order 26-1001: €900.00 waits for your signature",
    });
    expect(mail!.eml.toString()).toContain("Hydraulic oil");
    tick("11:00");
    expect(await post("11:01")).toBe(1);
    expect(mails()[1]!.subject).toMatch(/still waits/);
  });

  it("has a link that is theirs alone, works once and ends", async () => {
    const order = waiting();
    const other = waiting("950");
    await post();
    const [link, second] = mails().map((m) => linkIn(m.eml));
    const version = versionOf(h.db, "purchase_order", order);
    expect(refusal(by("halden", link!, version))).toEqual(["This link was sent to somebody else."]);
    expect(refusal(by("maud", "nonsense", version))[0]).toMatch(/There is no such link/);
    expect(by("maud", link!, version - 1)).toMatchObject({ ok: false, stale: true });
    must(by("maud", link!, version));
    expect(stateOf(h.db, "purchase_order", order)).toBe("Cleared");
    expect(refusal(by("maud", link!, version + 1))).toEqual(["This link was used already; each works once."]);
    const later = toDay(addDays(TODAY, 20));
    expect(refusal(by("maud", second!, versionOf(h.db, "purchase_order", other), later))[0]).toMatch(/has ended/);
    must(sign(h.desk("maud"), paper(other)));
    expect(refusal(by("maud", second!, versionOf(h.db, "purchase_order", other)))).toEqual([
      "This paper does not wait for that signature any more.",
    ]);
  });

  it("goes to whoever stands in, with a link of their own", async () => {
    must(keepAbsence(h.desk("maud"), { person: "", standIn: h.id("person", "halden"), starts: TODAY, ends: TODAY }));
    const order = waiting();
    expect(told("halden")).toEqual(["Order 26-1001 waits for your signature"]);
    expect(told("maud")).toEqual([]);
    expect(await post()).toBe(1);
    expect(mails()[0]!.recipients).toBe("halden@kelpholm.example");
    must(by("halden", linkIn(mails()[0]!.eml), versionOf(h.db, "purchase_order", order)));
    expect(readSignings(h.db, "order", order)[0]!.seats[0]!.signatures).toMatchObject([
      { person: "Halden", forWhom: "Maud" },
    ]);
  });

  it("keeps no secret beside its hash", async () => {
    waiting();
    await post();
    const link = linkIn(mails()[0]!.eml);
    expect(JSON.stringify(sql(h.db, "SELECT * FROM sign_link").all())).not.toContain(link);
  });
});
