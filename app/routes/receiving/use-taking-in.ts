import { useRef } from "react";
import { useSubmit } from "react-router";
import type { CountSheet } from "../../../server/queries/receiving/dock";
import { problemAt } from "../../ui/field";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import { sentParts } from "./counting";
import type { useCounting } from "./use-counting";

type Problems = readonly { field: string; says: string }[] | undefined;

/** Sends a count, and finds what was wrong with it at the line and part where it was typed. */
export function useTakingIn(
  sheet: CountSheet,
  { count, counting }: ReturnType<typeof useCounting>,
  problems: Problems,
) {
  const submit = useSubmit();
  const busy = useBusy();
  const key = useSubmissionKey(sheet.version);
  // The parts as they were sent last: what was wrong is told by their place.
  const sent = useRef<ReturnType<typeof sentParts>>([]);
  const take = () => {
    if (busy || counting.wrong || counting.some.length === 0) return;
    sent.current = sentParts(sheet.lines, count);
    void submit(
      {
        version: sheet.version,
        deliveryNote: count.note,
        said: count.said,
        difference: count.difference,
        key: `${key()}count`,
        lines: sent.current.map(({ part, count: counted, ...p }) => ({ ...p, counted })),
      },
      { method: "post", encType: "application/json" },
    );
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
  return { take, busy, problemOf, trouble };
}
