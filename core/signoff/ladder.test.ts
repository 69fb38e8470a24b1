import { describe, expect, it } from "vitest";
import { type Ladder, refusesSigner, signaturesFor } from "./ladder";

const maud = { id: 4, name: "Maud Ostrander" };
const halden = { id: 5, name: "Halden Prior" };
const ladder: Ladder = {
  name: "Orders",
  rungs: [
    { upTo: 80_000, team: null, hours: 0 },
    { upTo: 1_250_000, team: { id: 1, name: "Yard manager", members: [maud] }, hours: 8 },
    { upTo: null, team: { id: 2, name: "Finance director", members: [halden] }, hours: 16 },
  ],
};
const who = (minor: number, writer = 1) => {
  const needed = signaturesFor(ladder, minor, "EUR", writer);
  return needed.ok ? needed.rungs.map((r) => r.team!.name) : needed.says;
};

describe("the spend ladder", () => {
  it("keeps to the boundaries of the worked example", () => {
    expect(who(80_000)).toEqual([]);
    expect(who(80_001)).toEqual(["Yard manager"]);
    expect(who(1_250_000)).toEqual(["Yard manager"]);
    expect(who(1_250_001)).toEqual(["Yard manager", "Finance director"]);
  });

  it("says why an amount cannot be submitted", () => {
    const low = { name: "Orders", rungs: ladder.rungs.slice(0, 2) };
    expect(signaturesFor(low, 1_250_001, "EUR", 1)).toEqual({
      ok: false,
      says: "Nobody on the ladder “Orders” may sign this amount, so it cannot be submitted.",
    });
    expect(signaturesFor(null, 1, "EUR", 1).ok).toBe(false);
    expect(who(80_001, maud.id)).toBe("Nobody but its writer could sign as yard manager, so it cannot be submitted.");
  });

  it("lets nobody sign their own paper, or another's rung", () => {
    const team = ladder.rungs[1]!.team!;
    expect(refusesSigner(team, maud.id, 1)).toBeNull();
    expect(refusesSigner(team, maud.id, maud.id)).toBe("Nobody signs their own paper.");
    expect(refusesSigner(team, halden.id, 1)).toBe("This waits for the yard manager.");
  });
});
