import { useRef, useState } from "react";
import { useNavigate, useRevalidator } from "react-router";
import type { TakenLoad } from "../../../server/acts/receiving/receive-goods";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { give, type SendingOf } from "../../parts/sending";
import type { useSending } from "../../parts/use-sending";
import { problemAt } from "../../ui/field";
import { useWriting } from "../../ui/locale";
import { countName } from "./count-name";
import { sentParts } from "./counting";
import type { useCounting } from "./use-counting";

/** Sends a count, or keeps it to be sent; and finds what was wrong with it at the line and part where it was typed. */
export function useTakingIn(
  sheet: CountSheet,
  { count, counting, keep }: ReturnType<typeof useCounting>,
  sending: ReturnType<typeof useSending>,
) {
  const { person } = useWriting();
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const [problems, setProblems] = useState<Extract<SendingOf<never>, { kind: "refused" }>["problems"]>();
  const [busy, setBusy] = useState(false);
  // The parts as they were sent last: what was wrong is told by their place.
  const sent = useRef<ReturnType<typeof sentParts>>([]);
  const take = async () => {
    if (busy || counting.wrong || counting.some.length === 0) return;
    sent.current = sentParts(sheet.lines, count);
    setBusy(true);
    const answer = await give<TakenLoad>({
      person,
      what: `${sheet.number}, ${sheet.supplierName}`,
      to: `/dock/${sheet.order}/send`,
      body: {
        version: sheet.version,
        deliveryNote: count.note,
        said: count.said,
        difference: count.difference,
        lines: sent.current.map(({ part, count: counted, ...p }) => ({ ...p, counted })),
      },
      draft: { name: countName(sheet), version: sheet.version, value: count },
    });
    setBusy(false);
    setProblems(answer.kind === "refused" ? answer.problems : undefined);
    if (answer.kind === "taken") return void navigate(`/receipts/${answer.value.receipt}?taken=1`);
    if (answer.kind === "waits") {
      keep(null); // it waits among what is to be sent
      await sending.look();
    } else if (answer.stale) await revalidate();
  };
  const problemOf = (line: number) => (part: number, field: string) => {
    const index = sent.current.findIndex((p) => p.line === line && p.part === part);
    return index < 0 ? undefined : problemAt(problems, `lines.${index}.${field}`);
  };
  const trouble =
    problemAt(problems, "") ??
    problemAt(problems, "difference") ??
    (problems?.length
      ? "Some counts need another look; they are marked."
      : counting.wrong
        ? "A count is not a number."
        : null);
  return { take: () => void take(), busy, problems, problemOf, trouble };
}
