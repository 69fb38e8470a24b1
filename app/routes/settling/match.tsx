import { useRef, useState } from "react";
import { Link, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { countsStill } from "../../../core/settling/invoice";
import type { StairStep } from "../../../core/settling/match";
import { accountChoices, openBudgetChoices } from "../../../server/queries/choices";
import { readMatchPage } from "../../../server/queries/settling/match-page";
import { readProcess } from "../../../server/queries/signoff/process";
import { readSignings } from "../../../server/queries/signoff/signings";
import { isAskedOf } from "../../../server/queries/signoff/waiting";
import { Button } from "../../ui/button";
import { SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { actions, idOf, notAllowed, notFound, page } from "../../web/page";
import { ClaimLaterPart } from "./claim-later";
import { MatchLines } from "./match-lines";
import {
  BookingPart,
  CreditedClaims,
  DuePart,
  EndPart,
  HandedUp,
  HeldParts,
  PassedParts,
  PriceParts,
} from "./match-slip";
import { invoiceActs } from "./settle-acts";
import { MatchStair } from "./stair";
import { CAUSE_WORDS, turnWords } from "./words";

export const loader = page("keep own inbox", ({ db, params, person, day }) => {
  const id = idOf(params.id);
  const signings = readSignings(db, "invoice", id);
  if (!may(person.roles, "see invoices") && !isAskedOf(db, signings, person.id, day)) throw notAllowed();
  const match = readMatchPage(db, id, person, day);
  if (!match) throw notFound("There is no such invoice.");
  return {
    match,
    choices: match.held.some((h) => h.reason === "other")
      ? { accounts: accountChoices(db), budgets: openBudgetChoices(db, day) }
      : null,
    signings,
    asks: readProcess(db, "invoice", id)?.process.writer === person.id,
    may: {
      claims: may(person.roles, "claim"),
      enters: may(person.roles, "enter invoices"),
      countsIn: may(person.roles, "count in"),
      seesClaims: may(person.roles, "see invoices"),
      accepts: may(person.roles, "accept prices"),
      lists: may(person.roles, "keep sourcing"),
    },
  };
});

export const action = actions("see invoices", invoiceActs, ({ params }) => ({ invoice: idOf(params.id) }));

/** An invoice against what was ordered and what came: why it differs, what is held, whose turn it is, what to do. */
export default function MatchOfInvoice() {
  const { match, choices, signings, asks, may: can } = useLoaderData<typeof loader>();
  const { head, lines, held, stair } = match;
  const w = useWriting();
  const [at, setAt] = useState(held[0]?.position ?? 1);
  const openers = { claim: useRef<(() => void) | null>(null), back: useRef<(() => void) | null>(null) };
  const claimed = held.find((h) => h.claim)?.claim;
  const proposes = can.claims && claimed;
  useKeys([
    ...(proposes ? [{ key: "l", label: "claim", run: () => openers.claim.current?.() }] : []),
    ...(can.claims && held.length ? [{ key: "b", label: "send back", run: () => openers.back.current?.() }] : []),
  ]);
  const stepWords = (s: StairStep) => {
    const line = lines.find((l) => l.position === s.position);
    if (!line) return CAUSE_WORDS[s.cause];
    return `${CAUSE_WORDS[s.cause]}, ${line.words}`;
  };
  const turn = turnWords([...new Set(held.map((h) => h.turn))]);
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead
            title={`${head.kind === "invoice" ? "Invoice" : "Credit note"} ${head.number}`}
            sub={`${head.supplierName}, ${w.day(head.day, false)}${head.orders ? `, for ${head.orders.replaceAll(",", ", ")}` : ""}`}
          >
            <StateSquare state={head.state} />
          </SheetHead>
          {head.why && (
            <p className="mx-4.5 mb-3 border-l-4 border-signal px-3">
              {head.state}: {head.why}
            </p>
          )}
          <div className="min-h-0 flex-1 overflow-y-auto">
            {head.kind === "invoice" ? (
              <MatchLines lines={lines} currency={head.currency} at={at} onAt={setAt} />
            ) : (
              <CreditedClaims claims={match.credits} />
            )}
          </div>
          {head.kind === "invoice" && <MatchStair stair={stair} currency={head.currency} words={stepWords} />}
        </>
      }
      slip={
        <>
          <SlipHead
            over={held.length ? `since ${w.moment(head.since)}` : `entered by ${head.person}`}
            title={held.length ? `Held for ${turn}` : `${w.amount(head.total, head.currency)} by ${w.day(head.due)}`}
          />
          {held.length > 0 && <HeldParts page={match} choices={choices} may={can} openers={openers} />}
          <HandedUp page={match} signings={signings} asks={asks} may={can} />
          <PassedParts page={match} may={can} />
          {head.kind === "invoice" && <PriceParts page={match} may={can} />}
          <ClaimLaterPart page={match} may={can} />
          <BookingPart page={match} />
          {head.kind === "invoice" && <DuePart page={match} />}
          <EndPart page={match} enters={can.enters && countsStill(head.state)} />
          <p className="text-xs">
            <Link className="underline" to="/settle">
              All invoices
            </Link>
          </p>
        </>
      }
      tally={
        <TallyLine
          keys={proposes ? [["b", "send back"]] : []}
          act={
            proposes && (
              <Button look="main" onClick={() => openers.claim.current?.()}>
                Claim {w.amount(claimed.net + claimed.tax, head.currency)}…
              </Button>
            )
          }
        >
          {lines.length > 0 && (
            <span>
              <b>{lines.length}</b> {lines.length === 1 ? "line" : "lines"}
            </span>
          )}
          <span>
            net <b className="figure">{w.amount(head.net, head.currency)}</b>
          </span>
          <span>
            tax <b className="figure">{w.amount(head.tax, head.currency)}</b>
          </span>
          <span>
            total <b className="figure">{w.amount(head.total, head.currency)}</b>
          </span>
        </TallyLine>
      }
    />
  );
}
