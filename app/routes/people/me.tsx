import { useState } from "react";
import { useActionData, useLoaderData, useSubmit } from "react-router";
import { may } from "../../../core/people/roles";
import { dropAbsence, keepAbsence } from "../../../server/acts/settings/keep-absence";
import { endArrivalLink, makeArrivalLink } from "../../../server/acts/suppliers/arrival-links";
import { endToken, makeToken, readTokens } from "../../../server/auth/tokens";
import { storeChoices } from "../../../server/queries/choices";
import { readAbsences, signerChoices } from "../../../server/queries/signoff/staff";
import { readArrivalLinks } from "../../../server/queries/suppliers/arrivals";
import { Button } from "../../ui/button";
import { problemAt, TextField } from "../../ui/field";
import { Empty, SheetAndSlip, SheetHead, SlipHead, SlipPart } from "../../ui/frame-parts";
import { Heads } from "../../ui/heads";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { actions, type PageActs, page } from "../../web/page";
import { Absences } from "./absences";
import { ArrivalLinks } from "./arrival-links";

export const loader = page("keep own inbox", ({ db, person, house, day }) => ({
  absences: readAbsences(db, person.id, day),
  others: signerChoices(db, day, [person.id]),
  signs: may(person.roles, "sign"),
  tokens: readTokens(db, person.id),
  person: { name: person.name, title: person.title, login: person.login, roles: person.roles },
  origin: house.site,
  arrivals: may(person.roles, "see dock") ? { links: readArrivalLinks(db, person.id), stores: storeChoices(db) } : null,
}));

const ownActs = {
  make: makeToken,
  end: endToken,
  away: (desk, input) => keepAbsence(desk, { ...input, person: "" }),
  here: dropAbsence,
  "arrivals link": makeArrivalLink,
  "end arrivals link": endArrivalLink,
} satisfies PageActs;
type OwnWord = keyof typeof ownActs;
export const action = actions("keep own inbox", ownActs);

/** One's own page: who one is here, and the tokens with which other programs act in one's name. */
export default function Me() {
  const { tokens, person, origin, absences, others, signs, arrivals } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(tokens);
  const made = answer?.ok && "token" in answer.value ? answer.value.token : null;
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const calendar = answer?.ok && "calendar" in answer.value ? `${origin}/arrivals/${answer.value.calendar}.ics` : null;
  const send = (what: OwnWord, more: Record<string, string>) =>
    submit({ do: what, ...more, key: `${key()}${what}${arrivals?.links.length}` }, { method: "post" });
  const working = tokens.filter((t) => works(t, w.today)).length;
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead
            title={person.name}
            sub={`${person.title ? `${person.title}, ` : ""}signs in as ${person.login}`}
          />
          <form
            className="flex flex-wrap items-start gap-4 border-t-2 border-ink px-4.5 py-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (busy) return;
              const body = new FormData(e.currentTarget);
              body.set("do", "make" satisfies OwnWord);
              body.set("key", `${key()}make`);
              void submit(body, { method: "post" });
            }}
          >
            <TextField
              label="A token for"
              name="name"
              maxLength={60}
              placeholder="the planning spreadsheet"
              problem={problemAt(problems, "name")}
              className="w-72"
            />
            <TextField
              label="Works for so many days"
              name="days"
              defaultValue="90"
              inputMode="numeric"
              maxLength={4}
              problem={problemAt(problems, "days")}
              className="w-40"
            />
            <Button type="submit" look="main" className="mt-5" disabled={busy}>
              Make a token
            </Button>
          </form>
          {made && <NewToken token={made} />}
          {tokens.length === 0 ? (
            <Empty title="No tokens yet">
              With a token another program can load files and fetch the needs, with your rights and no others.
            </Empty>
          ) : (
            <Tokens
              tokens={tokens}
              busy={busy}
              onEnd={(token) =>
                submit(
                  { do: "end" satisfies OwnWord, token: String(token), key: `${key()}end${token}` },
                  { method: "post" },
                )
              }
            />
          )}
        </div>
      }
      slip={
        <>
          {arrivals && (
            <ArrivalLinks
              {...arrivals}
              made={calendar}
              busy={busy}
              onMake={(store) => send("arrivals link", { store })}
              onEnd={(link) => send("end arrivals link", { link: String(link) })}
            />
          )}
          {signs && <Absences person="" absences={absences} others={others} />}
          <SlipHead over="for other programs" title="What a token opens" />
          <p className="text-ink-2">
            A program that sends it acts in your name, with your rights: {person.roles.join(", ")}. It can be ended at
            any time, and every act stands in the audit trail under your name.
          </p>
          <SlipPart title="Loading a file">
            <pre className="overflow-x-auto border border-rule bg-sheet p-2.5 font-mono text-2xs">{`curl -H "Authorization: Bearer $TOKEN" \\
  -F kind=stock -F file=@stock.csv \\
  ${origin}/exchange/import`}</pre>
          </SlipPart>
          <SlipPart title="Fetching the needs">
            <pre className="overflow-x-auto border border-rule bg-sheet p-2.5 font-mono text-2xs">{`curl -H "Authorization: Bearer $TOKEN" \\
  -G ${origin}/needs.csv \\
  -d source=reorder -d asOf=${w.today}`}</pre>
          </SlipPart>
        </>
      }
      tally={
        <TallyLine trouble={problemAt(problems, "")}>
          <span>
            <b>{working}</b> {working === 1 ? "token works" : "tokens work"}
          </span>
        </TallyLine>
      }
    />
  );
}

function Tokens({ tokens, busy, onEnd }: { tokens: readonly Token[]; busy: boolean; onEnd: (token: number) => void }) {
  const w = useWriting();
  return (
    <table className="w-full">
      <caption className="sr-only">Tokens</caption>
      <Heads
        heads={[
          { label: "For" },
          { label: "Made" },
          { label: "Last used" },
          { label: "Ends" },
          { label: "End", hidden: true },
        ]}
      />
      <tbody>
        {tokens.map((t) => (
          <tr key={t.id} className={`h-9 border-b border-rule-2 ${works(t, w.today) ? "" : "text-ink-3"}`}>
            <td className="pl-4.5">{t.name}</td>
            <td className="px-2">{w.moment(t.made)}</td>
            <td className="px-2">{t.used ? w.moment(t.used) : "never"}</td>
            <td className="px-2">
              {t.ended ? `ended ${w.moment(t.ended)}` : works(t, w.today) ? w.day(t.ends) : `ended ${w.day(t.ends)}`}
            </td>
            <td className="px-2 pr-4.5 text-right">
              {works(t, w.today) && (
                <Button
                  look="plain"
                  aria-label={`End it: the token for ${t.name}`}
                  disabled={busy}
                  onClick={() => onEnd(t.id)}
                >
                  End it
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function NewToken({ token }: { token: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div role="status" className="mx-4.5 mb-4 border-l-4 border-harbour bg-harbour-2/60 px-3 py-2">
      <p className="font-semibold">Copy the token now: it is not shown again.</p>
      <p className="mt-1 flex flex-wrap items-center gap-3">
        <code className="figure break-all" data-token>
          {token}
        </code>
        <Button
          onClick={() => {
            void navigator.clipboard?.writeText(token).then(() => setCopied(true));
          }}
        >
          {copied ? "Copied" : "Copy"}
        </Button>
      </p>
    </div>
  );
}

type Token = ReturnType<typeof useLoaderData<typeof loader>>["tokens"][number];
const works = (t: Token, today: string) => t.ended === null && t.ends >= today;
