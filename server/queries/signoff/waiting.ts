import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import type { Paper } from "../../../core/signoff/papers";
import { maySign, waitsFor } from "../../../core/signoff/process";
import { spoken } from "../../../core/signoff/rulebook";
import type { Person } from "../../acts/desk";
import { Ids, readColumn, SignerColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { JOIN_PAPER, PAPER_ABOUT, WHICH_PAPER } from "./papers";
import { readProcess } from "./process";
import { readRoster } from "./staff";

export interface WaitingSignature {
  /** The seat that waits. */
  id: number;
  signing: number;
  paper: Paper;
  kind: "requisition" | "order" | "blanket" | "change" | "invoice";
  paperId: number;
  number: string;
  version: number;
  /** "the yard manager". */
  called: string;
  /** Home currency, net of tax. */
  amount: number;
  asked: string;
  hours: number;
  /** Moment by which it should be signed. */
  due: string;
  climbed: boolean;
  writer: number;
  writerName: string;
  /** Supplier of an order, reason of a requisition. */
  about: string;
  storeName: string;
  required: Day | null;
  lines: number;
  ladder: string;
  /** Questions that its writer has not answered. */
  open: number;
  /** May the person who looks sign here? */
  mine: boolean;
  /** Those they may sign for, where they stand in. */
  forWhom: string | null;
}

/** What waits for signatures, the soonest due first. `person` marks what that person may sign today. */
export function readWaitingSignatures(db: Db, person: PersonId, day: Day): WaitingSignature[] {
  const roster = readRoster(db, day);
  const as = new Set([person, ...roster.standsInFor(person)]);
  const rows = sql<
    Omit<WaitingSignature, "called" | "mine" | "forWhom" | "climbed"> & {
      who: string;
      name: string;
      own: number;
      hands: string;
      climbed: number;
      people: string;
    }
  >(
    db,
    `SELECT t.id, g.id AS signing, iif(v.id IS NULL, g.paper, 'invoice') AS kind, ${WHICH_PAPER}, coalesce(o.version, a.version, v.version, r.version) AS version,
            t.who, t.name, g.amount, t.asked, t.hours, t.due, t.climbed IS NOT NULL AS climbed, g.own, g.hands, g.ladder, w.id AS writer, w.name AS writerName,
            ${PAPER_ABOUT}, coalesce(st.name, '') AS storeName,
            CASE WHEN o.id IS NOT NULL THEN (SELECT count(*) FROM order_line l WHERE l.purchase_order = o.id)
                 WHEN a.id IS NOT NULL THEN (SELECT count(*) FROM agreement_item x WHERE x.agreement = a.id)
                 WHEN v.id IS NOT NULL THEN (SELECT count(*) FROM invoice_asked x WHERE x.invoice = v.id)
                 ELSE (SELECT count(*) FROM requisition_line l WHERE l.requisition = r.id) END AS lines,
            (SELECT count(*) FROM question q WHERE q.signing = g.id AND q.answer IS NULL) AS open,
            -- Who is asked and has not signed yet, for themselves or through somebody else.
            (SELECT json_group_array(a.person) FROM seat_person a WHERE a.seat = t.id AND a.handed_on IS NULL
               AND a.person NOT IN (SELECT coalesce(x.for_whom, x.person) FROM signature x WHERE x.seat = t.id)) AS people
     FROM seat t JOIN signing g ON g.id = t.signing
     ${JOIN_PAPER}
     JOIN person w ON w.id = g.writer LEFT JOIN store st ON st.id = coalesce(o.store, a.store, r.store)
     WHERE t.state = 'waiting'`,
  ).all();
  return rows
    .map(({ who, name, own, hands, people, climbed, ...r }) => {
      const asked = readColumn(Ids, people).filter((p) => as.has(p));
      const mine = asked.length > 0 && maySign({ hands: readColumn(Ids, hands), own: own === 1 }, person);
      const forWhom = mine && !asked.includes(person) ? (roster.find(asked[0]!)?.name ?? null) : null;
      return {
        ...r,
        climbed: climbed === 1,
        called: spoken({ who: readColumn(SignerColumn, who), name }),
        mine,
        forWhom,
      };
    })
    .sort((a, b) => a.due.localeCompare(b.due));
}

/** May a person open a paper because they are asked to sign it, were asked, or stand in for somebody who is? */
export function isAskedOf(
  db: Db,
  signings: readonly { seats: readonly { people: readonly { id: PersonId }[] }[] }[],
  person: PersonId,
  day: Day,
): boolean {
  const as = new Set([person, ...readRoster(db, day).standsInFor(person)]);
  return signings.some((s) => s.seats.some((t) => t.people.some((p) => as.has(p.id))));
}

/** Does a paper wait for this person, who may sign by their role? */
export function mayActOn(db: Db, paper: Paper, id: number, person: Person, day: Day): boolean {
  if (!may(person.roles, "sign")) return false;
  const kept = readProcess(db, paper, id);
  return kept !== null && waitsFor(kept.process, person.id, readRoster(db, day));
}
