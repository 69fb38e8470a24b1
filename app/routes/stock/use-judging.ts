import { useSubmit } from "react-router";
import { differenceOf } from "../../../core/stock/stock-count";
import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";
import { useSubmissionKey } from "../../ui/submission";
import { useBusy } from "../../ui/use-busy";
import type { CountWord } from "./count-acts";
import { judged } from "./count-texts";

/** What is to be judged of a count, and the acts about all of it. */
export function useJudging(head: { version: number }, lines: readonly PlaceSeen[], judges: boolean) {
  const submit = useSubmit();
  const key = useSubmissionKey(head.version);
  const busy = useBusy();
  const off = judges ? lines.filter((l) => l.books && l.counted !== null && differenceOf(judged(l)!) !== 0) : [];
  const differ = off.filter((l) => l.verdict === "" && !l.mine);
  const send = (body: object) =>
    void submit(JSON.stringify({ ...body, key: key() }), { method: "post", encType: "application/json" });
  return {
    differ,
    busy,
    undecided: off.filter((l) => l.verdict === "").length,
    ready:
      judges &&
      lines.some((l) => l.counted !== null) &&
      off.every((l) => l.verdict !== "") &&
      lines.every((l) => l.verdict !== "again" || l.counted !== null),
    all: (what: "book" | "again") =>
      send({
        do: "judge" satisfies CountWord,
        rows: differ.map((l) => ({ line: l.id, what, seen: l.counted })),
        reason: "",
      }),
    book: () => send({ do: "book" satisfies CountWord, version: head.version }),
  };
}
