import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { OFFICE } from "./hours";
import {
  begin as beginOf,
  circleOf,
  type Decided,
  decide as decideOf,
  type Process,
  type SigningAct,
  type Staff,
} from "./process";
import type { Seat } from "./way";

const [INES, MAUD, HALDEN, ROSS, OSK] = [1, 2, 3, 4, 5];
const NAMES: Record<number, string> = { 1: "Ines", 2: "Maud", 3: "Halden", 4: "Ross", 5: "Osk" };
const member = (id: number) => ({ id, name: NAMES[id]! });
const staffWith = (standsInFor: Staff["standsInFor"]): Staff => ({ standsInFor, worksAt: () => OFFICE });
const EVERYBODY = staffWith(() => []);
const begin = (seats: readonly Seat[], writer: number, own: boolean, now: string, ...others: number[]) =>
  beginOf(seats, { writer, hands: [writer, ...others], own }, now, EVERYBODY);
const decide = (p: Process, act: SigningAct, now: string, standsInFor?: Staff["standsInFor"]): Decided =>
  decideOf(p, act, now, standsInFor ? staffWith(standsInFor) : EVERYBODY);
const seat = (name: string, members: number[], all = false): Seat => ({
  at: 0,
  who: { kind: "team", team: 1, all },
  name,
  hours: 8,
  climbsTo: null,
  members: members.map(member),
  all,
});
const MONDAY = "2026-11-23T08:00:00.000Z";
const TUESDAY = "2026-11-24T09:00:00.000Z"; // eight working hours later and more
const two = () => begin([seat("Yard manager", [MAUD]), seat("Finance director", [HALDEN])], INES, false, MONDAY);
const then = (p: Process, ...acts: [SigningAct, string?][]): Process =>
  acts.reduce((at, [act, now]) => {
    const next = decide(at, act, now ?? MONDAY);
    if (!next.ok) throw new Error(next.says);
    return next.process;
  }, p);
const sign = (person: number): SigningAct => ({ kind: "sign", person });
const back = (person: number, reason = "too much"): SigningAct => ({ kind: "send back", person, reason });

describe("every act in every state", () => {
  const states: Record<string, Process> = {
    "the first waits": two(),
    "the second waits": then(two(), [sign(MAUD)]),
    "the first was asked": then(two(), [{ kind: "ask", person: MAUD, text: "Why now?" }]),
    "the first is late": then(two(), [{ kind: "climb", to: [member(OSK)] }, TUESDAY]),
    cleared: then(two(), [sign(MAUD)], [sign(HALDEN)]),
    "sent back": then(two(), [back(MAUD)]),
  };
  const acts: Record<string, SigningAct> = {
    "Maud signs": sign(MAUD),
    "Halden signs": sign(HALDEN),
    "Ines signs": sign(INES),
    "Osk signs": sign(OSK),
    "Maud sends back": back(MAUD),
    "Maud asks": { kind: "ask", person: MAUD, text: "Which job?" },
    "Ines answers": { kind: "answer", person: INES, question: 0, text: "The refit." },
    "Maud hands over": { kind: "hand over", person: MAUD, to: member(ROSS) },
    "Ines withdraws": { kind: "withdraw", person: INES },
    "it is half time": { kind: "remind" },
    "time is up": { kind: "climb", to: [member(OSK)] },
  };
  const OVER = "This paper is not waiting for a signature any more.";
  const YARD = "This waits for the yard manager.";
  const FINANCE = "This waits for the finance director.";
  const OWN = "Nobody signs their own paper.";
  const NONE = "There is no such question.";
  /** What comes of it at nine on Tuesday: the state, or the sentence. */
  const table: Record<string, Record<string, string>> = {
    "the first waits": {
      "Maud signs": "In sign-off",
      "Halden signs": YARD,
      "Ines signs": OWN,
      "Osk signs": YARD,
      "Maud sends back": "Draft",
      "Maud asks": "In sign-off",
      "Ines answers": NONE,
      "Maud hands over": "In sign-off",
      "Ines withdraws": "Draft",
      "it is half time": "In sign-off",
      "time is up": "In sign-off",
    },
    "the second waits": {
      "Maud signs": FINANCE,
      "Halden signs": "Cleared",
      "Ines signs": OWN,
      "Osk signs": FINANCE,
      "Maud sends back": FINANCE,
      "Maud asks": FINANCE,
      "Ines answers": NONE,
      "Maud hands over": FINANCE,
      "Ines withdraws": "Draft",
      "it is half time": "In sign-off",
      "time is up": "In sign-off",
    },
    "the first was asked": {
      "Maud signs": "In sign-off",
      "Halden signs": YARD,
      "Ines signs": OWN,
      "Osk signs": YARD,
      "Maud sends back": "Draft",
      "Maud asks": "In sign-off",
      "Ines answers": "In sign-off",
      "Maud hands over": "In sign-off",
      "Ines withdraws": "Draft",
      "it is half time": "In sign-off",
      "time is up": "In sign-off",
    },
    "the first is late": {
      "Maud signs": "In sign-off",
      "Halden signs": YARD,
      "Ines signs": OWN,
      "Osk signs": "In sign-off",
      "Maud sends back": "Draft",
      "Maud asks": "In sign-off",
      "Ines answers": NONE,
      "Maud hands over": "In sign-off",
      "Ines withdraws": "Draft",
      "it is half time": "In sign-off",
      "time is up": "It climbed already.",
    },
    cleared: Object.fromEntries(Object.keys(acts).map((a) => [a, OVER])),
    "sent back": Object.fromEntries(Object.keys(acts).map((a) => [a, OVER])),
  };

  it.each(Object.keys(states))("is allowed with its result or refused with its sentence: %s", (state) => {
    const found = Object.fromEntries(
      Object.entries(acts).map(([name, act]) => {
        const next = decide(states[state]!, act, TUESDAY);
        return [name, next.ok ? next.process.state : next.says];
      }),
    );
    expect(found).toEqual(table[state]);
  });
});

describe("a sign-off", () => {
  it("goes from seat to seat; the last signature clears it, and no seat clears it at once", () => {
    const half = then(two(), [sign(MAUD)]);
    expect(half.seats.map((s) => s.state)).toEqual(["signed", "waiting"]);
    expect(then(half, [sign(HALDEN)]).seats.map((s) => s.state)).toEqual(["signed", "signed"]);
    expect(begin([], INES, false, MONDAY).state).toBe("Cleared");
    expect(then(two(), [back(MAUD)])).toMatchObject({
      reason: "too much",
      seats: [{ state: "sent back" }, { state: "not reached" }],
    });
    expect(decide(two(), back(MAUD, " x "), MONDAY)).toMatchObject({ ok: false });
  });

  it("needs each of a team where the ladder says all of them", () => {
    const board = begin([seat("Board", [MAUD, HALDEN, ROSS], true)], INES, false, MONDAY);
    const some = then(board, [sign(HALDEN)], [sign(ROSS)]);
    expect(some.state).toBe("In sign-off");
    expect(decide(some, sign(ROSS), MONDAY)).toMatchObject({ ok: false }); // once each
    expect(then(some, [sign(MAUD)]).state).toBe("Cleared");
  });

  it("keeps both names where somebody stands in, and not where the stand-in wrote it", () => {
    const away = (by: number) => (person: number) => (person === by ? [MAUD] : []);
    const next = decide(two(), sign(ROSS), MONDAY, away(ROSS));
    expect(next.ok && next.process.seats[0]!.signatures).toEqual([{ person: ROSS, forWhom: MAUD, at: MONDAY }]);
    expect(decide(two(), sign(INES), MONDAY, away(INES))).toEqual({ ok: false, says: "Nobody signs their own paper." });
  });

  it("is reminded at half of its working time, climbs at the end, and each only once", () => {
    const p = two();
    expect(p.seats[0]!.half).toBe("2026-11-23T12:00:00.000Z");
    const remind: SigningAct = { kind: "remind" };
    const climb: SigningAct = { kind: "climb", to: [member(OSK), member(INES)] };
    expect(decide(p, remind, "2026-11-23T11:59:00.000Z")).toMatchObject({ ok: false });
    const reminded = then(p, [remind, "2026-11-23T12:00:00.000Z"]);
    expect(decide(reminded, remind, TUESDAY)).toEqual({ ok: false, says: "They were reminded already." });
    expect(decide(p, climb, "2026-11-23T15:59:00.000Z")).toEqual({ ok: false, says: "There is time left to answer." });
    const up = then(p, [climb, "2026-11-23T16:00:00.000Z"]);
    expect(up.seats[0]!.asked.map((m) => m.id)).toEqual([MAUD, OSK]); // never to its writer
    expect(decide(p, { kind: "climb", to: [member(INES)] }, TUESDAY)).toMatchObject({ ok: false });
  });

  it("is answered once, by its writer, with the clock running", () => {
    const asked = then(two(), [{ kind: "ask", person: MAUD, text: "Why now?" }]);
    expect(asked.seats[0]!.due).toBe(two().seats[0]!.due);
    const answer = (person: number, text = "The dock is booked."): SigningAct => ({
      kind: "answer",
      person,
      question: 0,
      text,
    });
    expect(decide(asked, answer(ROSS), MONDAY)).toMatchObject({ says: "The writer of the paper answers." });
    const done = then(asked, [answer(INES)]);
    expect(done.questions[0]).toMatchObject({ by: MAUD, answer: "The dock is booked." });
    expect(decide(done, answer(INES), MONDAY)).toMatchObject({ says: "This was answered already." });
  });

  it("is never cleared without every seat, nor signed by whoever had a hand in it, whatever is done with it", () => {
    const who = fc.constantFrom(INES, MAUD, HALDEN, ROSS, OSK);
    const act: fc.Arbitrary<SigningAct> = fc.oneof(
      who.map((person): SigningAct => ({ kind: "sign", person })),
      fc.tuple(who, who).map(([person, to]): SigningAct => ({ kind: "hand over", person, to: member(to) })),
      fc.array(who, { maxLength: 2 }).map((to): SigningAct => ({ kind: "climb", to: to.map(member) })),
      fc.constant<SigningAct>({ kind: "remind" }),
    );
    const awayList = fc.array(fc.record({ away: who, by: who }), { maxLength: 3 });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 30 }), awayList, fc.boolean(), (acts, away, all) => {
        const seats = [seat("Board", [MAUD, HALDEN], all), seat("Finance director", [HALDEN])];
        let p = begin(seats, INES, false, MONDAY, OSK);
        for (const a of acts) {
          const next = decide(p, a, TUESDAY, (person) => away.filter((x) => x.by === person).map((x) => x.away));
          if (next.ok) p = next.process;
        }
        for (const s of p.seats) {
          for (const hand of [INES, OSK]) {
            expect(s.signatures.flatMap((g) => [g.person, g.forWhom])).not.toContain(hand);
            expect(s.asked.map((m) => m.id)).not.toContain(hand);
          }
          if (s.state === "signed") expect(s.signatures.length).toBeGreaterThan(0);
        }
        if (p.state === "Cleared") expect(p.seats.every((s) => s.state === "signed")).toBe(true);
      }),
    );
  });
});

describe("stand-ins", () => {
  it("may follow each other, but not in a circle", () => {
    expect(
      circleOf([
        { away: MAUD, by: ROSS },
        { away: ROSS, by: OSK },
      ]),
    ).toBeNull();
    expect(
      circleOf([
        { away: MAUD, by: ROSS },
        { away: ROSS, by: MAUD },
      ]),
    ).toBe(MAUD);
    expect(circleOf([{ away: OSK, by: OSK }])).toBe(OSK);
    expect(
      circleOf([
        { away: MAUD, by: ROSS },
        { away: ROSS, by: OSK },
        { away: OSK, by: ROSS },
      ]),
    ).toBe(ROSS);
  });
});
