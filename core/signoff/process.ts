import { dueOf, type WorkingTime } from "./hours";
import { spoken } from "./rulebook";
import type { Member, Seat } from "./way";

/** What became of a paper that was handed in: who was asked, who did what, and what may happen next. Nothing here reads a clock. */

export type SeatState = "later" | "waiting" | "signed" | "sent back" | "not reached";

export interface Signed {
  person: number;
  /** Whom they signed for, where they stood in for somebody who is away. */
  forWhom: number | null;
  at: string;
}

/** A seat as it stands: who is asked there now, and what they did. */
export interface SeatNow extends Omit<Seat, "members"> {
  state: SeatState;
  /** Who may sign: as routed, as handed over, and those it climbed to. */
  asked: readonly Member[];
  askedAt: string | null;
  /** When half of the working time to answer is gone, and when all of it is. */
  half: string | null;
  due: string | null;
  reminded: boolean;
  climbed: boolean;
  signatures: readonly Signed[];
}

export interface Question {
  by: number;
  text: string;
  at: string;
  answer: string | null;
}

export interface Process {
  state: "In sign-off" | "Cleared" | "Draft";
  writer: number;
  /** Whose own paper it is, its writer among them: wrote it in another's name, changed it, or asked for what it buys. */
  hands: readonly number[];
  /** The ladder lets people sign this much of their own. */
  own: boolean;
  seats: readonly SeatNow[];
  questions: readonly Question[];
  /** Why it came back, and who sent it, where it did. */
  reason: string;
  sentBack: Signed | null;
}

export type SigningAct =
  | { kind: "sign"; person: number }
  | { kind: "send back"; person: number; reason: string }
  | { kind: "ask"; person: number; text: string }
  | { kind: "answer"; person: number; question: number; text: string }
  | { kind: "hand over"; person: number; to: Member }
  | { kind: "withdraw"; person: number }
  /** By the clock: half of the time is gone, or all of it. */
  | { kind: "remind" }
  | { kind: "climb"; to: readonly Member[] };

export type Decided = { ok: true; process: Process } | { ok: false; says: string };
const no = (says: string): Decided => ({ ok: false, says });

/** What of people an act depends on. */
export interface Staff {
  /** Those who are away today and named this person to sign for them. */
  standsInFor: (person: number) => readonly number[];
  worksAt: (person: number) => WorkingTime;
}

const dueFor = (seat: Pick<SeatNow, "asked" | "hours" | "all">, now: string, staff: Staff, hours = seat.hours) =>
  dueOf(
    now,
    hours,
    seat.asked.map((m) => staff.worksAt(m.id)),
    seat.all,
  );

/** Opens the way: the first seat is asked at once. Without a seat the paper is cleared. */
export function begin(
  seats: readonly Seat[],
  { writer, hands, own }: Pick<Process, "writer" | "hands" | "own">,
  now: string,
  staff: Staff,
): Process {
  const all = seats.map(
    ({ members, ...seat }): SeatNow => ({
      ...seat,
      state: "later",
      asked: members,
      askedAt: null,
      half: null,
      due: null,
      reminded: false,
      climbed: false,
      signatures: [],
    }),
  );
  return {
    state: all.length ? "In sign-off" : "Cleared",
    writer,
    hands,
    own,
    seats: askNext(all, now, staff),
    questions: [],
    reason: "",
    sentBack: null,
  };
}

function askNext(seats: readonly SeatNow[], now: string, staff: Staff): SeatNow[] {
  const next = seats.findIndex((s) => s.state === "later");
  return seats.map((s, i) =>
    i === next
      ? {
          ...s,
          state: "waiting" as const,
          askedAt: now,
          half: dueFor(s, now, staff, s.hours / 2),
          due: dueFor(s, now, staff),
        }
      : s,
  );
}

/** Those who may not sign it. */
export const barredFrom = (p: Pick<Process, "hands" | "own">) => (p.own ? [] : p.hands);

/** Whatever was handed over and whoever is away: nobody signs their own paper beyond what the ladder lets them. */
export const maySign = (p: Pick<Process, "hands" | "own">, person: number) => !barredFrom(p).includes(person);

/** As whom a person may sign at a seat: themselves first, then for somebody who is away. Undefined: as nobody. */
function signsAs(p: Process, seat: SeatNow, person: number, staff: Staff): Signed["forWhom"] | undefined {
  if (!maySign(p, person)) return undefined;
  const done = (member: number) => seat.signatures.some((g) => (g.forWhom ?? g.person) === member);
  const open = seat.asked.filter((m) => !done(m.id));
  if (open.some((m) => m.id === person)) return null;
  return staff.standsInFor(person).find((away) => !p.hands.includes(away) && open.some((m) => m.id === away));
}

/** What an act makes of a paper, or why it may not be done now. */
export function decide(p: Process, act: SigningAct, now: string, staff: Staff): Decided {
  if (p.state !== "In sign-off") return no("This paper is not waiting for a signature any more.");
  const at = p.seats.findIndex((s) => s.state === "waiting");
  const seat = p.seats[at]!;
  const put = (change: Partial<SeatNow>, more: Partial<Process> = {}): Process => ({
    ...p,
    ...more,
    seats: p.seats.map((s, i) => (i === at ? { ...s, ...change } : s)),
  });
  const mayAct = (person: number) => signsAs(p, seat, person, staff) !== undefined;
  const notYours = (person: number) =>
    no(
      maySign(p, person)
        ? `This waits for ${spoken(seat)}.`
        : person === p.writer
          ? "Nobody signs their own paper."
          : "You wrote, changed or asked for this yourself, so somebody else has to sign it.",
    );

  switch (act.kind) {
    case "sign": {
      const forWhom = signsAs(p, seat, act.person, staff);
      if (forWhom === undefined) return notYours(act.person);
      const signatures = [...seat.signatures, { person: act.person, forWhom, at: now }];
      const signedFor = new Set(signatures.map((g) => g.forWhom ?? g.person));
      const whole = seat.all ? seat.asked.every((m) => signedFor.has(m.id)) : true;
      const signed = put({ signatures, state: whole ? "signed" : "waiting" });
      if (!whole) return { ok: true, process: signed };
      const seats = askNext(signed.seats, now, staff);
      return {
        ok: true,
        process: { ...signed, seats, state: seats.every((s) => s.state === "signed") ? "Cleared" : "In sign-off" },
      };
    }
    case "send back": {
      const forWhom = signsAs(p, seat, act.person, staff);
      if (forWhom === undefined) return notYours(act.person);
      if (act.reason.trim().length < 3) return no("Say why, so that the writer knows what to change.");
      const back = put(
        { state: "sent back" },
        {
          state: "Draft",
          reason: act.reason.trim(),
          sentBack: { person: act.person, forWhom, at: now },
        },
      );
      return { ok: true, process: { ...back, seats: back.seats.map(unreached) } };
    }
    case "ask":
      if (!mayAct(act.person)) return notYours(act.person);
      if (act.text.trim().length < 3) return no("Ask something.");
      // The clock runs on: a question is no way to win time.
      return {
        ok: true,
        process: {
          ...p,
          questions: [...p.questions, { by: act.person, text: act.text.trim(), at: now, answer: null }],
        },
      };
    case "answer": {
      const question = p.questions[act.question];
      if (!question) return no("There is no such question.");
      if (act.person !== p.writer) return no("The writer of the paper answers.");
      if (question.answer !== null) return no("This was answered already.");
      if (act.text.trim() === "") return no("Write an answer.");
      const questions = p.questions.map((q, i) => (i === act.question ? { ...q, answer: act.text.trim() } : q));
      return { ok: true, process: { ...p, questions } };
    }
    case "hand over": {
      if (!mayAct(act.person)) return notYours(act.person);
      if (!maySign(p, act.to.id))
        return no(`It cannot be handed to whoever ${act.to.id === p.writer ? "wrote it" : "had a hand in it"}.`);
      if (seat.asked.some((m) => m.id === act.to.id)) return no(`${act.to.name} is asked already.`);
      const from = signsAs(p, seat, act.person, staff) ?? act.person;
      return { ok: true, process: put({ asked: seat.asked.map((m) => (m.id === from ? act.to : m)) }) };
    }
    case "withdraw":
      if (act.person !== p.writer) return no("Only its writer takes a paper back.");
      return {
        ok: true,
        process: {
          ...p,
          state: "Draft",
          reason: "",
          seats: p.seats.map((s) => unreached(s.state === "waiting" ? { ...s, state: "later" } : s)),
        },
      };
    case "remind":
      if (seat.reminded) return no("They were reminded already.");
      if (now < seat.half!) return no("There is time left before a reminder.");
      return { ok: true, process: put({ reminded: true }) };
    case "climb": {
      if (seat.climbed) return no("It climbed already.");
      if (now < seat.due!) return no("There is time left to answer.");
      const more = act.to.filter((m) => maySign(p, m.id) && !seat.asked.some((a) => a.id === m.id));
      if (more.length === 0) return no("There is nobody it could climb to.");
      // Whoever it climbs to may sign alone: the first are late.
      return { ok: true, process: put({ climbed: true, all: false, asked: [...seat.asked, ...more] }) };
    }
  }
}

const unreached = (s: SeatNow): SeatNow => (s.state === "later" ? { ...s, state: "not reached" } : s);

/** May this person act on a paper now, themselves or for somebody who is away? */
export function waitsFor(p: Process, person: number, staff: Staff): boolean {
  const seat = p.seats.find((s) => s.state === "waiting");
  return p.state === "In sign-off" && seat !== undefined && signsAs(p, seat, person, staff) !== undefined;
}

/** A person who would stand in for themselves through others; null where nobody does. */
export function circleOf(standIns: readonly { away: number; by: number }[]): number | null {
  for (const start of standIns) {
    let at = start.by;
    for (let steps = 0; steps <= standIns.length; steps++) {
      if (at === start.away) return start.away;
      const next = standIns.find((s) => s.away === at);
      if (!next) break;
      at = next.by;
    }
  }
  return null;
}
