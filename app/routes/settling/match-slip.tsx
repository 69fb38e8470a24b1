import type { RefObject } from "react";
import { Link } from "react-router";
import type { PostingRole } from "../../../core/stock/posting";
import type { HeldRow, MatchLine, MatchPage } from "../../../server/queries/settling/match-page";
import type { SigningView } from "../../../server/queries/signoff/signings";
import { Attachments } from "../../parts/attachments";
import { Signatures } from "../../parts/signatures";
import { SlipForm } from "../../parts/slip-form";
import { TextField } from "../../ui/field";
import { SelectField } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { SumSheet } from "../../ui/sum";
import type { InvoiceWord } from "./settle-acts";
import { heldWords, notInWords, REASON_WORDS, TURN_WORDS } from "./words";

export interface MayDo {
  claims: boolean;
  enters: boolean;
  countsIn: boolean;
  seesClaims: boolean;
  lists: boolean;
  accepts: boolean;
}

type Opener = RefObject<(() => void) | null>;

/** What is held, each with the ways out of it. */
export function HeldParts({
  page: { head, held, lines, orders, aside },
  choices,
  may,
  openers,
}: {
  page: MatchPage;
  choices: Choices | null;
  may: MayDo;
  openers: { claim: Opener; back: Opener };
}) {
  const first = held.find((h) => h.claim);
  return (
    <>
      {held.map((h) => (
        <HeldPart
          key={`${h.reason} ${h.position}`}
          held={h}
          line={lines.find((l) => l.position === h.position)}
          head={head}
          orders={orders}
          aside={aside}
          choices={h.reason === "other" ? choices : null}
          may={may}
          opener={h === first ? openers.claim : undefined}
        />
      ))}
      {may.claims && (
        <SlipForm<InvoiceWord>
          does="send back"
          fields={{ invoice: head.id, version: head.version }}
          label="Ask for a new invoice: this one is sent back"
          send="Send it back"
          opener={openers.back}
        >
          <TextField label="What is wrong with it" name="why" maxLength={300} />
          <p className="text-xs text-ink-2">Its number is free again for the new one.</p>
        </SlipForm>
      )}
    </>
  );
}

interface Choices {
  accounts: readonly { code: string; name: string }[];
  budgets: readonly { id: number; code: string; name: string }[];
}

/** Where a line on no order is booked, and what it takes of. */
function WhereBooked({ choices, line }: { choices: Choices; line: MatchLine | undefined }) {
  const named = choices.budgets.find((b) => b.code === line?.budget);
  return (
    <>
      <SelectField
        label="Account"
        name="account"
        defaultValue={line?.account ?? ""}
        options={[
          { value: "", label: "the company’s own" },
          ...choices.accounts.map((a) => ({ value: a.code, label: `${a.code} ${a.name}` })),
        ]}
      />
      <SelectField
        label="Budget"
        name="budget"
        defaultValue={named ? String(named.id) : ""}
        options={[
          { value: "", label: line?.budget ?? "none" },
          ...choices.budgets.map((b) => ({ value: String(b.id), label: `${b.code} ${b.name}` })),
        ]}
      />
    </>
  );
}

function HeldPart({
  held: h,
  line,
  head,
  orders,
  aside,
  choices,
  may,
  opener,
}: {
  held: HeldRow;
  line: MatchLine | undefined;
  head: MatchPage["head"];
  orders: MatchPage["orders"];
  aside: MatchPage["aside"];
  choices: Choices | null;
  may: MayDo;
  opener?: Opener;
}) {
  const w = useWriting();
  const fields = { invoice: head.id, version: head.version, reason: h.reason, position: h.position ?? "" };
  const order = orders.find((o) => o.number === line?.orderNumber);
  return (
    <section className="border border-rule bg-sheet p-2.5">
      <h3 className="font-semibold">{heldWords(h, line)}</h3>
      <p className="mb-1.5 text-xs text-ink-2">
        for {TURN_WORDS[h.turn]}
        {h.reason !== "quantity" && h.beyond !== 0 && `, ${w.amount(h.beyond, head.currency)} beyond what is agreed`}
      </p>
      <div className="flex flex-col gap-1.5">
        {h.reason === "quantity" && order && (
          <p className="text-xs">
            It matches by itself when the goods are counted in:{" "}
            <Link className="underline" to={may.countsIn ? `/dock/${order.id}` : `/orders/${order.id}`}>
              {order.number}
            </Link>
            {order.receipts.length > 0 && ", so far "}
            {order.receipts.map((r, i) => (
              <span key={r.id}>
                {i > 0 && ", "}
                <Link className="underline" to={`/receipts/${r.id}`}>
                  {r.number}
                </Link>
              </span>
            ))}
            .
          </p>
        )}
        {h.reason === "quantity" &&
          aside
            .filter((n) => n.line === line?.orderLine)
            .map((n, i) => (
              <p key={i} className="text-xs font-semibold">
                {notInWords(n)}
              </p>
            ))}
        {h.claim && may.claims && (
          <SlipForm<InvoiceWord>
            does="claim"
            fields={fields}
            label={`Claim ${w.amount(h.claim.net + h.claim.tax, head.currency)} with tax`}
            send="Claim it"
            opener={opener}
          >
            <TextField label="A word to them" name="said" maxLength={300} />
            <p className="text-xs text-ink-2">The invoice passes with it: what is claimed is no cost.</p>
          </SlipForm>
        )}
        {h.accepts &&
          (h.accepts.ok ? (
            <SlipForm<InvoiceWord> does="pass" fields={fields} label="Accept it" send="Accept it">
              <TextField label="Why" name="said" maxLength={300} />
              {choices && <WhereBooked choices={choices} line={line} />}
              {h.accepts.says && <p className="text-xs text-ink-2">{h.accepts.says}</p>}
            </SlipForm>
          ) : (
            <p className="text-xs text-ink-2">{h.accepts.says}</p>
          ))}
      </div>
    </section>
  );
}

/** What was let pass, by whom, and what is asked back. */
export function PassedParts({ page: { passes, claims, lines, head }, may }: { page: MatchPage; may: MayDo }) {
  const w = useWriting();
  if (passes.length === 0) return null;
  return (
    <SlipPart title="Let pass">
      <ul className="flex flex-col gap-1.5">
        {passes.map((p, i) => {
          const claim = claims.find((c) => c.id === p.claim);
          const words = lines.find((l) => l.position === p.position)?.words ?? "the paper";
          return (
            <li key={i} className="text-xs">
              <b>
                {words}: {REASON_WORDS[p.reason]}
              </b>
              <br />
              {claim ? (
                <>
                  {may.seesClaims ? (
                    <Link className="underline" to={`/claims?at=${claim.id}`}>
                      Claim {claim.number}
                    </Link>
                  ) : (
                    `Claim ${claim.number}`
                  )}{" "}
                  of {w.amount(claim.net + claim.tax, head.currency)}, {claim.state.toLowerCase()},{" "}
                </>
              ) : (
                "accepted "
              )}
              by {p.person}, {w.moment(p.at)}
              {p.said && `: ${p.said}`}
            </li>
          );
        })}
      </ul>
    </SlipPart>
  );
}

/** Their prices that the price list does not say, line by line: taken into it from the day of the invoice. */
export function PriceParts({ page: { lines, head }, may }: { page: MatchPage; may: MayDo }) {
  const w = useWriting();
  const other = lines.filter((l) => l.listed && l.against && l.price !== l.against.price);
  if (!may.lists || other.length === 0) return null;
  return (
    <SlipPart title="Prices that the list does not say">
      {other.map((l) => (
        <div key={l.id} className="border border-rule bg-sheet p-2.5">
          <p className="flex justify-between gap-3">
            {l.words}
            <span className="figure whitespace-nowrap">
              {w.price(l.price, head.currency)}
              {l.listed?.price != null && ` for ${w.price(l.listed.price, head.currency)}`}
            </span>
          </p>
          <SlipForm<InvoiceWord>
            does="list"
            fields={{ invoice: head.id, position: l.position }}
            label="Take it into their price list"
            send="Take it in"
          >
            <p className="text-xs text-ink-2">From {w.day(head.day)} on. What is in stock keeps its value.</p>
          </SlipForm>
        </div>
      ))}
    </SlipPart>
  );
}

const BOOKED: Partial<Record<PostingRole, string>> = {
  "received not invoiced": "received, not invoiced",
  "input tax": "tax",
  claims: "claim",
};

/** Both sides of what is booked, by account; debits at the left, credits at the right. */
export function BookingPart({ page: { booking, head } }: { page: MatchPage }) {
  const w = useWriting();
  if (!booking) return null;
  const by = new Map<string, number>();
  for (const p of booking.postings) {
    const name = `${BOOKED[p.role] ?? p.role}${p.account ? ` ${p.account}` : ""}`;
    by.set(name, (by.get(name) ?? 0) + p.minor);
  }
  return (
    <SlipPart title={booking.made ? "What was booked" : "What is booked if it is claimed and accepted"}>
      <table className="figure w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">Booking, {w.home}</caption>
        <tbody>
          {[...by].map(([name, minor]) => (
            <tr key={name}>
              <th scope="row" className="px-2.5 py-0.5 text-left font-sans font-normal">
                {name}
                {name === "payable" && `, due ${w.day(head.due)}`}
              </th>
              <td className="px-2 text-right">{minor > 0 ? w.money(minor) : ""}</td>
              <td className="px-2.5 text-right">{minor < 0 ? w.money(-minor) : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SlipPart>
  );
}

/** When it is paid, and what paying early is worth. */
export function DuePart({ page: { early, head } }: { page: MatchPage }) {
  const w = useWriting();
  return early ? (
    <SumSheet sum={early} />
  ) : (
    <p className="text-xs text-ink-2">To be paid by {w.day(head.due)}; nothing is taken off for paying early.</p>
  );
}

/** What a credit note met. */
export function CreditedClaims({ claims }: { claims: MatchPage["credits"] }) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Claims that it met</caption>
      <Heads
        heads={[
          { label: "Claim", width: "w-28" },
          { label: "For" },
          { label: "Of invoice", width: "w-36" },
          { label: "With tax", align: "right", width: "w-32" },
        ]}
      />
      <tbody>
        {claims.map((c) => (
          <tr key={c.id} className="h-10 border-b border-rule-2">
            <td className="pl-4.5">
              <Link className="code underline" to={`/claims?at=${c.id}`}>
                {c.number}
              </Link>
            </td>
            <td className="px-2">
              {c.words}: {REASON_WORDS[c.reason]}
            </td>
            <td className="px-2">
              <Link className="code underline" to={`/settle/${c.invoice}`}>
                {c.invoiceNumber}
              </Link>
            </td>
            <td className="figure px-2 pr-4.5 text-right">{w.amount(c.net + c.tax, c.currency)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The files that are kept with it, and taking it off. */
export function EndPart({ page: { head, files, ours }, enters }: { page: MatchPage; enters: boolean }) {
  return (
    <>
      {ours && (
        <p className="text-xs">
          Written by us.{" "}
          <a className="underline" href={`/settle/${head.id}/self-billed.xml`}>
            The invoice for them, UBL 2.1
          </a>
        </p>
      )}
      <Attachments at={`/settle/${head.id}`} files={files} mayAttach={enters} mayTakeOff={false} />
      {enters && (
        <SlipForm<InvoiceWord>
          does="take off"
          fields={{ invoice: head.id, version: head.version }}
          label="Take this invoice off"
          send="Take it off"
        >
          <TextField label="Why" name="why" maxLength={300} />
          <p className="text-xs text-ink-2">What it booked is turned round; both stay in the journal.</p>
        </SlipForm>
      )}
    </>
  );
}

/** Handing up what is beyond what one may accept, and the signatures that were asked for. */
export function HandedUp({
  page: { head, held },
  signings,
  asks,
  may,
}: {
  page: MatchPage;
  signings: readonly SigningView[];
  asks: boolean;
  may: MayDo;
}) {
  const waits = signings.at(-1)?.state === "In sign-off";
  const beyond = held.some((h) => h.turn === "buyer" && h.accepts && !h.accepts.ok);
  return (
    <>
      {may.accepts && beyond && !waits && (
        <SlipForm<InvoiceWord>
          does="hand up"
          fields={{ invoice: head.id, version: head.version }}
          label="Ask those who may accept it"
          send="Hand it up"
        >
          <TextField label="Why it should be accepted" name="said" maxLength={300} />
          <p className="text-xs text-ink-2">All that is dearer, or on no order, is signed together.</p>
        </SlipForm>
      )}
      {waits && asks && (
        <SlipForm<InvoiceWord>
          does="take back"
          fields={{ paper: "invoice", id: head.id, version: head.version }}
          label="Take it back from sign-off"
          send="Take it back"
        >
          <p className="text-xs text-ink-2">It stays held as before.</p>
        </SlipForm>
      )}
      <Signatures
        signings={signings}
        writes={waits && asks ? { paper: "invoice", id: head.id, version: head.version } : null}
      />
    </>
  );
}
