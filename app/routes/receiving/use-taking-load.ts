import { useRef, useState } from "react";
import type { StoreId } from "../../../core/ids";
import type { TakenLoad } from "../../../server/acts/receiving/receive-goods";
import { give, type SendingOf } from "../../parts/sending";
import type { useSending } from "../../parts/use-sending";
import { problemAt } from "../../ui/field";
import { useWriting } from "../../ui/locale";
import { sentOrders } from "./open-counting";
import { openCountName, type useOpenCount } from "./use-open-count";

/** Sends an open count, or keeps it to be sent; and finds what was wrong with it at the line where it was typed. */
export function useTakingLoad(
  store: StoreId,
  name: string,
  { open, counting, refresh, keep }: ReturnType<typeof useOpenCount>,
  sending: ReturnType<typeof useSending>,
) {
  const { person } = useWriting();
  const [problems, setProblems] = useState<Extract<SendingOf<never>, { kind: "refused" }>["problems"]>();
  const [taken, setTaken] = useState<readonly TakenLoad[]>([]);
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState("");
  const sent = useRef<ReturnType<typeof sentOrders>>([]);
  const take = async () => {
    if (busy || counting.wrong || counting.some.length === 0) return;
    sent.current = sentOrders(open);
    setBusy(true);
    const answer = await give<{ loads: TakenLoad[] }>({
      person,
      what: `${name}: ${[...new Set(open.lines.filter((l) => sent.current.some((o) => o.order === l.order)).map((l) => l.number))].join(", ")}`,
      to: "/open-count/send",
      body: {
        deliveryNote: open.count.note,
        difference: why,
        orders: sent.current.map(({ parts, ...o }) => ({
          ...o,
          lines: parts.map(({ part, count: counted, ...p }) => ({ ...p, counted })),
        })),
      },
      draft: { name: openCountName(store), version: 1, value: open },
    });
    setBusy(false);
    setProblems(answer.kind === "refused" ? answer.problems : undefined);
    setTaken(answer.kind === "taken" ? answer.value.loads : []);
    if (answer.kind === "refused") {
      if (answer.stale) await refresh();
      return;
    }
    keep(null);
    setWhy("");
    await sending.look();
  };
  const problemOf = (line: number) => (part: number, field: string) => {
    for (const [i, o] of sent.current.entries()) {
      const j = o.parts.findIndex((p) => p.line === line && p.part === part);
      if (j >= 0) return problemAt(problems, `orders.${i}.lines.${j}.${field}`);
    }
    return undefined;
  };
  // The same delivery note once more: why?
  const asks = problems?.find((p) => p.field.endsWith(".difference"))?.says;
  const trouble =
    asks ?? problemAt(problems, "") ?? (problems?.length ? "Some counts need another look; they are marked." : null);
  return { take: () => void take(), busy, problemOf, trouble, taken, asks: asks !== undefined, why, setWhy };
}
