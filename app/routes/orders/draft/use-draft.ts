import { useCallback, useEffect, useRef, useState } from "react";
import type { OrderId, OrderLineId, PersonId } from "../../../../core/ids";
import type { DraftFacts } from "../../../../server/queries/orders/draft";
import type { OrderLine } from "../../../../server/queries/orders/order";
import { answerOf } from "../../../ui/answer-of";
import { newKey } from "../../../ui/submission";
import { useKept } from "../../../ui/use-kept";
import type { DraftWord } from "../keep";

/** What is typed in a line, as text, until the server has it. */
export interface LineText {
  quantity?: string;
  price?: string;
  discount?: string;
  required?: string;
  words?: string;
  unit?: string;
  spread?: string;
  taxRate?: string;
  account?: string;
  budget?: string;
  job?: string;
  note?: string;
  ownNote?: string;
  store?: string;
  bin?: string;
  instalments?: { quantity: string; required: string }[];
  limits?: string;
  committedValue?: string;
  least?: string;
  blanketLine?: string;
}
export interface HeadText extends Record<string, unknown> {
  terms?: { days: string; from: string; earlyPercent: string; earlyDays: string } | null;
  delivery?: { rule: string; place: string } | null;
}

/** A change of a draft: only what was typed. */
export interface Change extends HeadText {
  lines?: ({ line: OrderLineId } & LineText)[];
}

const merge = (older: Change, newer: Change): Change => {
  const lines = new Map((older.lines ?? []).map((l) => [l.line, l]));
  for (const l of newer.lines ?? []) lines.set(l.line, { ...lines.get(l.line), ...l });
  return { ...older, ...newer, ...(lines.size ? { lines: [...lines.values()] } : {}) };
};

const JSON_TYPE = { "content-type": "application/json" };
function withFile(fields: Record<string, unknown>, file: File): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, String(value));
  form.set("file", file);
  return form;
}

type Part = DraftFacts & { lines: OrderLine[]; sequence: number[] | null };
export interface DraftProblem {
  field: string;
  says: string;
}

/**
 * A draft as it is written: what the server says of it, and over it what was typed and is not kept yet. Only changes
 * travel, so that an order of 1,500 lines is typed as quickly as one of three.
 */
export function useDraft(person: PersonId, order: OrderId, facts: DraftFacts, lines: readonly OrderLine[]) {
  const [now, setNow] = useState({ facts, lines });
  const [typed, setTyped] = useState<ReadonlyMap<number, LineText>>(new Map());
  const [head, setHead] = useState<HeadText>({});
  const [actProblems, setActProblems] = useState<DraftProblem[]>([]);
  const busy = useRef(false);
  const unanswered = useRef<{ same: string; version: number; key: string } | null>(null);
  const [working, setWorking] = useState(false);
  const take = useCallback((part: Part) => {
    setNow((was) => {
      const { lines: changed, sequence, ...next } = part;
      if (sequence) return { facts: next, lines: changed };
      const by = new Map(changed.map((l) => [l.id, l]));
      return { facts: next, lines: by.size ? was.lines.map((l) => by.get(l.id) ?? l) : was.lines };
    });
  }, []);
  const kept = useKept<Change, Part>(`/orders/${order}/keep`, facts.head.version, `wharf.order.${order}.${person}`, {
    merge,
    onRestored: ({ lines: left = [], ...rest }) => {
      setTyped(new Map(left.map(({ line, ...part }) => [line, part])));
      setHead(rest);
    },
    onKept: (part, settled) => {
      take(part);
      if (!settled) return;
      // What somebody is still typing in stays as typed: "12." must not become "12" under their fingers.
      const [line, field] = (document.activeElement?.getAttribute("data-at") ?? "").split(" ");
      setTyped((was) => {
        const left = was.get(Number(line));
        const typing = Object.entries(left ?? {}).filter(([name]) => name === field);
        return typing.length ? new Map([[Number(line), Object.fromEntries(typing)]]) : new Map();
      });
      setHead((was) => (line === "head" && field && field in was ? { [field]: was[field] } : {}));
    },
  });
  // The page was read again: after an act, or because somebody else saved.
  const seen = useRef(facts);
  useEffect(() => {
    if (seen.current === facts) return;
    seen.current = facts;
    setNow({ facts, lines });
  }, [facts, lines]);

  const setLine = useCallback(
    (line: OrderLineId, part: LineText) => {
      setTyped((was) => new Map(was).set(line, { ...was.get(line), ...part }));
      kept.keep({ lines: [{ line, ...part }] });
    },
    [kept.keep],
  );
  const setHeadPart = useCallback(
    (part: HeadText) => {
      setHead((was) => ({ ...was, ...part }));
      kept.keep(part);
    },
    [kept.keep],
  );
  /** Does something to the lines once all that was typed is kept; the problems it met, or null where it went through. */
  const act = useCallback(
    async (body: { do: DraftWord; [field: string]: unknown }, file?: File): Promise<DraftProblem[] | null> => {
      if (busy.current || !(await kept.settle())) return [{ field: "", says: "Some fields need another look first." }];
      busy.current = true;
      setWorking(true);
      try {
        // The same thing again, after its answer was lost, is the same act: the server does it once.
        const same = JSON.stringify(body);
        if (unanswered.current?.same !== same) unanswered.current = { same, version: kept.version(), key: newKey() };
        const { version, key } = unanswered.current;
        const all = { ...body, version, key };
        const answer = await fetch(`/orders/${order}/keep`, {
          method: "POST",
          ...(file ? { body: withFile(all, file) } : { headers: JSON_TYPE, body: JSON.stringify(all) }),
        });
        if (answer.redirected) throw new Error("signed out");
        unanswered.current = null;
        const said = await answerOf<{
          ok: boolean;
          value?: Part & { version: number };
          problems?: DraftProblem[];
        }>(answer);
        if (said.ok && said.value) {
          kept.movedTo(said.value.version);
          take(said.value);
          setActProblems([]);
          return null;
        }
        const problems = said.problems ?? [{ field: "", says: "This could not be done." }];
        setActProblems(problems.filter((p) => p.field === ""));
        return problems;
      } catch {
        const lost = [
          {
            field: "",
            says: "The connection was lost before an answer came. Do it again in a moment: it is done once.",
          },
        ];
        setActProblems(lost);
        return lost;
      } finally {
        busy.current = false;
        setWorking(false);
      }
    },
    [order, kept, take],
  );
  return {
    facts: now.facts,
    lines: now.lines,
    typed,
    head,
    kept,
    problems: [...kept.problems, ...actProblems],
    working,
    setLine,
    setHead: setHeadPart,
    act,
    forget: () => {
      setTyped(new Map());
      setHead({});
    },
  };
}
export type Draft = ReturnType<typeof useDraft>;
