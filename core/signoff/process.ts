import type { PersonId } from "../ids";
import { dueOf, type WorkingTime } from "./hours";
import { spoken } from "./rulebook";
import type { Member, Seat } from "./way";

/** What became of a paper that was handed in: who was asked, who did what, and what may happen next. Nothing here reads a clock. */

export type SeatState = "later" | "waiting" | "signed" | "sent back" | "not reached";

export interface Signed {
  person: PersonId;
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
  | { kind: "sign"; person: PersonId }
  | { kind: "send back"; person: PersonId; reason: string }
  | { kind: "ask"; person: PersonId; text: string }
  | { kind: "answer"; person: PersonId; question: number; text: string }
  | { kind: "hand over"; person: PersonId; to: Member }
  | { kind: "withdraw"; person: PersonId }
  /** By the clock: half of the time is gone, or all of it. */
  | { kind: "remind" }
  | { kind: "climb"; to: readonly Member[] };

export type Decided = { ok: true; process: Process } | { ok: false; says: string };
const no = (says: string): Decided => ({ ok: false, says });

/** What of people an act depends on. */
export interface Staff {
  /** Those who are away today and named this person to sign for them. */
  standsInFor: (person: PersonId) => readonly number[];
  worksAt: (person: PersonId) => WorkingTime;
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
export const maySign = (p: Pick<Process, "hands" | "own">, person: PersonId) => !barredFrom(p).includes(person);

/** As whom a person may sign at a seat: themselves first, then for somebody who is away. Undefined: as nobody. */
function signsAs(p: Process, seat: SeatNow, person: PersonId, staff: Staff): Signed["forWhom"] | undefined {
  if (!maySign(p, person)) return undefined;
  const done = (member: number) => seat.signatures.some((g) => (g.forWhom ?? g.person) === member);
  const open = seat.asked.filter((m) => !done(m.id));
  if (open.some((m) => m.id === person)) return null;
  return staff.standsInFor(person).find((away) => !p.hands.includes(away) && open.some((m) => m.id === away));
}

/** A paper at the seat that is asked now. */
interface At {
  p: Process;
  seat: SeatNow;
  now: string;
  staff: Staff;
}
type ActOf<K extends SigningAct["kind"]> = Extract<SigningAct, { kind: K }>;

const seated = ({ p, seat }: At, change: Partial<SeatNow>, more: Partial<Process> = {}): Process => ({
  ...p,
  ...more,
  seats: p.seats.map((s) => (s === seat ? { ...s, ...change } : s)),
});
const yes = (process: Process): Decided => ({ ok: true, process });

function notYours({ p, seat }: At, person: PersonId): Decided {
  if (maySign(p, person)) return no(`This waits for ${spoken(seat)}.`);
  return no(
    person === p.writer
      ? "Nobody signs their own paper."
      : "You wrote, changed or asked for this yourself, so somebody else has to sign it.",
  );
}

function signed(at: At, { person }: ActOf<"sign">): Decided {
  const { p, seat, now, staff } = at;
  const forWhom = signsAs(p, seat, person, staff);
  if (forWhom === undefined) return notYours(at, person);
  const signatures = [...seat.signatures, { person, forWhom, at: now }];
  const signedFor = new Set(signatures.map((g) => g.forWhom ?? g.person));
  if (seat.all && !seat.asked.every((m) => signedFor.has(m.id))) return yes(seated(at, { signatures }));
  const done = seated(at, { signatures, state: "signed" });
  const seats = askNext(done.seats, now, staff);
  return yes({ ...done, seats, state: seats.every((s) => s.state === "signed") ? "Cleared" : "In sign-off" });
}

function sentBack(at: At, { person, reason }: ActOf<"send back">): Decided {
  const forWhom = signsAs(at.p, at.seat, person, at.staff);
  if (forWhom === undefined) return notYours(at, person);
  const why = reason.trim();
  if (why.length < 3) return no("Say why, so that the writer knows what to change.");
  const back = seated(
    at,
    { state: "sent back" },
    { state: "Draft", reason: why, sentBack: { person, forWhom, at: at.now } },
  );
  return yes({ ...back, seats: back.seats.map(unreached) });
}

/** The clock runs on: a question is no way to win time. */
function asked(at: At, act: ActOf<"ask">): Decided {
  if (signsAs(at.p, at.seat, act.person, at.staff) === undefined) return notYours(at, act.person);
  const text = act.text.trim();
  if (text.length < 3) return no("Ask something.");
  return yes({ ...at.p, questions: [...at.p.questions, { by: act.person, text, at: at.now, answer: null }] });
}

function answered({ p }: At, act: ActOf<"answer">): Decided {
  const question = p.questions[act.question];
  if (!question) return no("There is no such question.");
  if (act.person !== p.writer) return no("The writer of the paper answers.");
  if (question.answer !== null) return no("This was answered already.");
  const answer = act.text.trim();
  if (answer === "") return no("Write an answer.");
  return yes({ ...p, questions: p.questions.map((q, i) => (i === act.question ? { ...q, answer } : q)) });
}

function handedOver(at: At, { person, to }: ActOf<"hand over">): Decided {
  const { p, seat, staff } = at;
  const as = signsAs(p, seat, person, staff);
  if (as === undefined) return notYours(at, person);
  if (!maySign(p, to.id))
    return no(`It cannot be handed to whoever ${to.id === p.writer ? "wrote it" : "had a hand in it"}.`);
  if (seat.asked.some((m) => m.id === to.id)) return no(`${to.name} is asked already.`);
  const from = as ?? person;
  return yes(seated(at, { asked: seat.asked.map((m) => (m.id === from ? to : m)) }));
}

function withdrawn({ p }: At, { person }: ActOf<"withdraw">): Decided {
  if (person !== p.writer) return no("Only its writer takes a paper back.");
  const seats = p.seats.map((s) => unreached(s.state === "waiting" ? { ...s, state: "later" } : s));
  return yes({ ...p, state: "Draft", reason: "", seats });
}

function reminded(at: At): Decided {
  if (at.seat.reminded) return no("They were reminded already.");
  if (at.now < at.seat.half!) return no("There is time left before a reminder.");
  return yes(seated(at, { reminded: true }));
}

/** Whoever it climbs to may sign alone: the first are late. */
function climbed(at: At, { to }: ActOf<"climb">): Decided {
  const { p, seat, now } = at;
  if (seat.climbed) return no("It climbed already.");
  if (now < seat.due!) return no("There is time left to answer.");
  const more = to.filter((m) => maySign(p, m.id) && !seat.asked.some((a) => a.id === m.id));
  if (more.length === 0) return no("There is nobody it could climb to.");
  return yes(seated(at, { climbed: true, all: false, asked: [...seat.asked, ...more] }));
}

/** What an act makes of a paper, or why it may not be done now. */
export function decide(p: Process, act: SigningAct, now: string, staff: Staff): Decided {
  const seat = p.seats.find((s) => s.state === "waiting");
  if (p.state !== "In sign-off" || !seat) return no("This paper is not waiting for a signature any more.");
  const at: At = { p, seat, now, staff };
  switch (act.kind) {
    case "sign":
      return signed(at, act);
    case "send back":
      return sentBack(at, act);
    case "ask":
      return asked(at, act);
    case "answer":
      return answered(at, act);
    case "hand over":
      return handedOver(at, act);
    case "withdraw":
      return withdrawn(at, act);
    case "remind":
      return reminded(at);
    case "climb":
      return climbed(at, act);
  }
}

const unreached = (s: SeatNow): SeatNow => (s.state === "later" ? { ...s, state: "not reached" } : s);

/** May this person act on a paper now, themselves or for somebody who is away? */
export function waitsFor(p: Process, person: PersonId, staff: Staff): boolean {
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
