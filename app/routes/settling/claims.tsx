import { Link, useLoaderData } from "react-router";
import { moneyText } from "../../../core/numbers/money";
import { may } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { previewClaim } from "../../../server/acts/settling/write-claim";
import { type ClaimRow, readClaims } from "../../../server/queries/settling/invoices";
import { SlipForm } from "../../parts/slip-form";
import { DayEntry } from "../../ui/day-entry";
import { Field, TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import { Named, Sheet, type SheetColumn } from "../../ui/sheet";
import { StateSquare } from "../../ui/signs";
import { TallyLine } from "../../ui/tally-line";
import { useAt } from "../../ui/use-at";
import { actions, page } from "../../web/page";
import { type ClaimWord, claimActs } from "./settle-acts";
import { REASON_WORDS } from "./words";

export const loader = page("see invoices", ({ db, person }) => {
  const rows = readClaims(db);
  const claims = may(person.roles, "claim");
  return {
    rows,
    letters: claims
      ? rows
          .filter((c) => c.state === "Open")
          .slice(0, 100)
          .map((c) => ({ claim: c.id, ...previewClaim(db, c, person.id) }))
      : [],
    drops: may(person.roles, "accept prices"),
    enters: may(person.roles, "enter invoices"),
  };
});
export const action = actions("claim", claimActs);

const keyOf = (r: ClaimRow) => String(r.id);

/** What we ask back of suppliers, the open ones first. */
export default function ClaimsPage() {
  const { rows, letters, drops, enters } = useLoaderData<typeof loader>();
  const w = useWriting();
  const [at, setAt] = useAt(rows[0] ? keyOf(rows[0]) : null);
  const open = rows.filter((r) => r.state === "Open");
  const claim = rows.find((r) => keyOf(r) === at);
  const columns: SheetColumn<ClaimRow>[] = [
    {
      key: "of",
      head: "Claim",
      gives: true,
      cell: (r) => <Named name={r.supplierName} code={`${r.number} · invoice ${r.invoiceNumber}`} />,
    },
    { key: "state", head: "Stands", keep: 3, cell: (r) => <StateSquare state={r.state} /> },
    { key: "what", head: "For", keep: 1, cell: (r) => `${r.words}: ${REASON_WORDS[r.reason]}` },
    {
      key: "much",
      head: "Quantity",
      keep: 0,
      align: "right",
      cell: (r) => (r.quantity || r.pieces ? `${w.quantity(r.quantity || r.pieces)} ${r.unit}` : ""),
    },
    {
      key: "total",
      head: "With tax",
      keep: 2,
      align: "right",
      cell: (r) => <span className="figure">{w.amount(r.net + r.tax, r.currency)}</span>,
    },
    { key: "day", head: "Since", keep: 1, align: "right", cell: (r) => w.day(r.day, false) },
  ];
  return (
    <SheetAndSlip
      sheet={
        <>
          <SheetHead title="Claims" sub="what suppliers billed and we ask back" />
          <Sheet
            label="Claims"
            columns={columns}
            rows={rows}
            keyOf={keyOf}
            at={at}
            onAt={setAt}
            empty={
              <Empty title="Nothing was claimed yet">
                What an invoice bills and is not here, or is dearer than ordered, can be claimed on its page.
              </Empty>
            }
          />
        </>
      }
      slip={
        claim && (
          <>
            <SlipHead
              over={claim.number}
              title={`${w.amount(claim.net + claim.tax, claim.currency)} of ${claim.supplierName}`}
            >
              <p className="mt-1 text-ink-2">
                {claim.words}: {REASON_WORDS[claim.reason]}. Claimed by {claim.person}
                {claim.said && `: ${claim.said}`}
              </p>
            </SlipHead>
            <p className="text-xs">
              <Link className="underline" to={`/settle/${claim.invoice}`}>
                Invoice {claim.invoiceNumber}
              </Link>
              {claim.returnNumber && (
                <>
                  , went back with{" "}
                  <Link className="underline" to="/returns">
                    {claim.returnNumber}
                  </Link>
                </>
              )}
            </p>
            {claim.partOf && <p className="text-xs">A part of {claim.partOf}</p>}
            {claim.how && (
              <p className="text-xs">
                {claim.state}: {claim.how}
              </p>
            )}
            <LetterPart claim={claim} letter={letters.find((l) => l.claim === claim.id)} />
            {enters && claim.state === "Open" && claim.home > 0 && (
              <CreditForm claim={claim} others={open.filter((c) => goesWith(c, claim))} />
            )}
            {drops && claim.state === "Open" && (
              <SlipForm<ClaimWord>
                does="drop"
                fields={{ claim: claim.id, version: claim.version }}
                label="Give it up: it becomes a cost"
                send="Give it up"
              >
                <TextField label="Why" name="how" maxLength={300} />
              </SlipForm>
            )}
          </>
        )
      }
      tally={
        <TallyLine>
          <span>
            <b>{count(open.length, "claim")}</b> open
          </span>
        </TallyLine>
      }
    />
  );
}

/** The letter to the supplier: what it says, and sending it. */
function LetterPart({
  claim,
  letter,
}: {
  claim: ClaimRow;
  letter: { subject: string; body: string; to: string } | undefined;
}) {
  const w = useWriting();
  return (
    <>
      {claim.written && <p className="text-xs text-ink-2">Written to them {w.moment(claim.written)}.</p>}
      {letter && (
        <SlipForm<ClaimWord>
          key={`${claim.id} letter`}
          does="write"
          fields={{ claim: claim.id, version: claim.version }}
          label={claim.written ? "Write to them again" : "Write to them"}
          send="Send it"
        >
          <p className="code">{letter.to || "no e-mail address is known"}</p>
          <p className="text-xs font-semibold">{letter.subject}</p>
          <p className="border-l-2 border-rule pl-3 text-xs whitespace-pre-line">{letter.body}</p>
        </SlipForm>
      )}
    </>
  );
}

/** May one credit note meet both? */
const goesWith = (c: ClaimRow, claim: ClaimRow) =>
  c.id !== claim.id && c.supplier === claim.supplier && c.currency === claim.currency && c.home > 0;

/** A credit note came: it meets this claim, and others of theirs that are ticked. */
function CreditForm({ claim, others }: { claim: ClaimRow; others: readonly ClaimRow[] }) {
  const w = useWriting();
  return (
    <SlipForm<ClaimWord>
      key={claim.id}
      does="credit"
      fields={{ supplier: claim.supplier }}
      label="A credit note came"
      send="Enter it"
    >
      <TextField label="Its number" name="number" maxLength={40} />
      <Field label="Its day">{(a) => <DayEntry {...a} name="day" defaultValue={w.today} max={w.today} />}</Field>
      <TextField
        label={`Total with tax, ${claim.currency}`}
        name="total"
        inputMode="decimal"
        maxLength={20}
        defaultValue={moneyText({ minor: claim.net + claim.tax, currency: claim.currency })}
      />
      <input type="hidden" name="claims[]" value={claim.id} />
      {others.map((c) => (
        <label key={c.id} className="flex items-baseline gap-2 text-xs">
          <input type="checkbox" name="claims[]" value={c.id} className="accent-harbour" />
          {c.number}, {c.words}: {w.amount(c.net + c.tax, c.currency)}
        </label>
      ))}
    </SlipForm>
  );
}
