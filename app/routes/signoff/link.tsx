import { Link, redirect, useActionData, useLoaderData, useSubmit } from "react-router";
import { z } from "zod";
import { count } from "../../../core/text";
import { decisionAsAsked } from "../../../server/acts/signoff/decision-as-asked";
import { signByLink } from "../../../server/acts/signoff/sign";
import { findSignLink } from "../../../server/queries/signoff/link";
import { readWaitingSignatures } from "../../../server/queries/signoff/waiting";
import { Button } from "../../ui/button";
import { Empty, SheetAndSlip, SheetHead } from "../../ui/frame-parts";
import { useKeys } from "../../ui/keys";
import { useWriting } from "../../ui/locale";
import { useSubmissionKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { useBusy } from "../../ui/use-busy";
import { now } from "../../web/house";
import { act, notAllowed, page } from "../../web/page";
import { DecisionSlip } from "./decision-slip";

/** Looking uses nothing up: a mail program that opens links ahead signs nothing. */
export const loader = page("sign", ({ db, person, params, day, hour }) => {
  const found = findSignLink(db, params.link ?? "", person.id, now().toISOString());
  if ("says" in found) {
    if (!found.theirs) throw notAllowed(found.says);
    return { says: found.says, row: null, decision: null };
  }
  const row = readWaitingSignatures(db, person.id, day).find((w) => w.signing === found.signing && w.mine);
  if (!row) return { says: "This paper does not wait for you any more.", row: null, decision: null };
  return { says: null, row, decision: decisionAsAsked(db, found.paper, found.id, day, hour) };
});

export const action = act<unknown>("sign", (desk, input, { params }) => {
  const signed = signByLink(desk, { version: z.coerce.number().catch(-1).parse(input.version), link: params.link });
  if (signed.ok) throw redirect("/sign-off");
  return signed;
});

/** Where the link of an e-mail leads: what waits, and one act. */
export default function SignByLink() {
  const { says, row, decision } = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const w = useWriting();
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(row?.version ?? 0);
  const sign = () =>
    row && !busy && void submit({ version: String(row.version), key: `${key()}link` }, { method: "post" });
  useKeys(row ? [{ key: "y", label: "sign", run: sign }] : []);
  const trouble = answer && !answer.ok ? answer.problems[0]?.says : undefined;
  return (
    <SheetAndSlip
      sheet={
        <div className="min-h-0 flex-1 overflow-y-auto pb-8">
          {row && decision ? (
            <>
              <SheetHead title={row.about} sub={`${row.kind} ${row.number}, ${w.amount(row.amount)} before tax`} />
              <div className="border-t-2 border-ink">
                <div className="flex max-w-xl flex-col gap-4 px-4.5 py-4">
                  <p className="text-ink-2">
                    {count(row.lines, "line")} from {row.writerName}
                    {row.storeName && `, for ${row.storeName}`}
                    {row.required && `, wanted by ${w.day(row.required)}`}. To be answered by {w.moment(row.due)}.
                  </p>
                  <DecisionSlip decision={decision} />
                  <p>
                    <Link to={`/sign-off?at=${row.id}`} className="underline">
                      Ask, send back or hand over under Sign-off
                    </Link>
                  </p>
                </div>
              </div>
            </>
          ) : (
            <>
              <SheetHead title="Sign-off" />
              <Empty title={says ?? ""}>
                <Link to="/sign-off" className="underline">
                  What waits for you
                </Link>
              </Empty>
            </>
          )}
        </div>
      }
      tally={
        <TallyLine
          trouble={trouble}
          keys={row ? [["y", "sign"]] : []}
          act={
            row && (
              <Button look="main" hint="Y" disabled={busy} onClick={sign}>
                Sign {w.amount(row.amount)}
              </Button>
            )
          }
        >
          {row && <span>the link works once</span>}
        </TallyLine>
      }
    />
  );
}
