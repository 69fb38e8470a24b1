import { describe, expect, it } from "vitest";
import { sortDraft } from "./local-draft";

describe("a draft that a device kept of a paper", () => {
  it("stands for the version it was made on alone: of another one it is past", () => {
    const kept = { version: 3, draft: { counted: { 7: "1" } } };
    expect(sortDraft(kept, 3)).toEqual({ now: kept.draft, past: null });
    expect(sortDraft(kept, 4)).toEqual({ now: null, past: kept.draft });
  });

  it("is nothing where nothing of ours was kept", () => {
    for (const other of [null, 7 as never, { counted: { 7: "1" } } as never])
      expect(sortDraft(other, 3)).toEqual({ now: null, past: null });
  });
});
