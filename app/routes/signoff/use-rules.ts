import { useEffect, useRef, useState } from "react";
import type { PersonId } from "../../../core/ids";
import type { Ladder, Rules } from "../../../core/signoff/rulebook";
import { useKept } from "../../ui/use-kept";
import { newLadder } from "./rule-words";

export const NONE: Rules = { allowance: { percent: 200, amount: null }, ladders: [] };

/** The rules as they stand on the page: every change is kept as the draft that all who write them share. */
export function useRules(person: PersonId, first: Rules, draftVersion: number, onAnew: () => void) {
  // Of a version that is in force only what it rules goes into the draft.
  const [rules, setRules] = useState<Rules>({ allowance: first.allowance, ladders: first.ladders });
  /** The newest version of the draft that was made here. */
  const mine = useRef(draftVersion);
  const kept = useKept<{ rules: Rules }, { version: number }>(
    "/ladders/keep",
    draftVersion,
    `wharf.ladders.${person}`,
    {
      onRestored: (left) => setRules(left.rules),
      onKept: ({ version }) => {
        mine.current = version;
      },
    },
  );
  const change = (next: Rules) => {
    setRules(next);
    kept.keep({ rules: next });
  };
  const setLadders = (ladders: readonly Ladder[]) => change({ ...rules, ladders });
  // A draft that came from a file or from somebody else is shown as it is kept: what stands here is older.
  const known = useRef(draftVersion);
  useEffect(() => {
    const fromElsewhere = draftVersion !== known.current && draftVersion > mine.current;
    known.current = draftVersion;
    if (fromElsewhere && kept.pending() === null) onAnew();
  }, [draftVersion, kept, onAnew]);
  return {
    rules,
    kept,
    change,
    setLadder: (next: Ladder) => setLadders(rules.ladders.map((l) => (l.id === next.id ? next : l))),
    /** Earlier or later in the order that decides. */
    move: (l: Ladder, by: number) => {
      const others = rules.ladders.filter((x) => x.id !== l.id);
      const at = rules.ladders.indexOf(l) + by;
      setLadders([...others.slice(0, at), l, ...others.slice(at)]);
    },
    add: (): Ladder => {
      const made = newLadder(rules);
      setLadders([...rules.ladders, made]);
      return made;
    },
    takeAway: (l: Ladder) => setLadders(rules.ladders.filter((x) => x !== l)),
  };
}
