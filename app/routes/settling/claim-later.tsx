import { Link } from "react-router";
import type { MatchPage } from "../../../server/queries/settling/match-page";
import { SlipForm } from "../../parts/slip-form";
import { Field, TextField } from "../../ui/field";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { InvoiceWord } from "./settle-acts";
import { REASON_WORDS } from "./words";

/** What showed after the invoice matched: claims that were made of it since, and making one. */
export function ClaimLaterPart({
  page: { head, lines, claims, returns },
  may,
}: {
  page: MatchPage;
  may: { claims: boolean; seesClaims: boolean };
}) {
  const w = useWriting();
  const later = claims.filter((c) => c.entry !== null);
  if (head.kind !== "invoice" || head.entry === null || (later.length === 0 && !may.claims)) return null;
  return (
    <SlipPart title="Claims since it matched">
      {later.map((c) => (
        <p key={c.id} className="text-xs">
          {may.seesClaims ? (
            <Link className="underline" to={`/claims?at=${c.id}`}>
              {c.number}
            </Link>
          ) : (
            c.number
          )}{" "}
          of {w.amount(c.net + c.tax, c.currency)}, {c.state.toLowerCase()}: {c.words}, {REASON_WORDS[c.reason]}
        </p>
      ))}
      {may.claims && (
        <SlipForm<InvoiceWord>
          does="claim later"
          fields={{ invoice: head.id, version: head.version }}
          label="Ask something back of it"
          send="Claim it"
        >
          <Field label="Line">
            {(a) => (
              <select {...a} name="position" className="entry">
                {lines.map((l) => (
                  <option key={l.id} value={l.position}>
                    {l.words}
                  </option>
                ))}
              </select>
            )}
          </Field>
          <Field label="Because">
            {(a) => (
              <select {...a} name="reason" className="entry">
                <option value="faulty">it turned out not good</option>
                <option value="agreed">they agreed to it</option>
              </select>
            )}
          </Field>
          <TextField label="How many are not good" name="pieces" inputMode="decimal" maxLength={16} />
          <TextField
            label={`Or how much, net, ${head.currency}`}
            name="amount"
            inputMode="decimal"
            maxLength={20}
            hint="Empty: what the pieces were billed at."
          />
          {returns.length > 0 && (
            <Field label="Went back with">
              {(a) => (
                <select {...a} name="goodsReturn" className="entry" defaultValue="">
                  <option value="">no return</option>
                  {returns.map((r) => (
                    <option key={r.id} value={r.id}>
                      {r.number}: {r.reason}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          )}
          <TextField label="Why, for them to read" name="said" maxLength={300} />
          <p className="text-xs text-ink-2">With its tax it is booked at once, and stays open until it is credited.</p>
        </SlipForm>
      )}
    </SlipPart>
  );
}
