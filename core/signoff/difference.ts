/** What of a line is kept as it was handed in, to be compared when the paper comes to be signed again. */
export interface SignedLine {
  words: string;
  /** As it is shown: "8 drum". */
  quantity: string;
  /** In the paper's own currency. */
  minor: number;
}

export interface Difference {
  words: string;
  was: Omit<SignedLine, "words"> | null;
  now: Omit<SignedLine, "words"> | null;
}

/** Lines that are new, gone or read otherwise than before; the same words in the same order are the same line. */
export function differences(before: readonly SignedLine[], after: readonly SignedLine[]): Difference[] {
  const left = [...before];
  const found: Difference[] = [];
  for (const { words, ...now } of after) {
    const at = left.findIndex((l) => l.words === words);
    const [old] = at < 0 ? [] : left.splice(at, 1);
    if (!old) found.push({ words, was: null, now });
    else if (old.quantity !== now.quantity || old.minor !== now.minor)
      found.push({ words, was: { quantity: old.quantity, minor: old.minor }, now });
  }
  return [...found, ...left.map(({ words, ...was }) => ({ words, was, now: null }))];
}
