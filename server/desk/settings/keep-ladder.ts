import { z } from "zod";
import { parseMoney } from "../../../core/numbers/money";
import { sql } from "../../db/open";
import { theCompany } from "../../read/company";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll } from "../desk";
import { Id, text } from "../fields";

const Rung = z.object({
  /** Empty: whatever is above. */
  upTo: text(30),
  /** Empty: nobody has to sign. */
  team: text(60),
  members: z.array(Id).max(50, "At most 50 people."),
  hours: z.coerce
    .number("Hours are a number.")
    .int("Whole hours.")
    .min(1, "At least an hour.")
    .max(1000, "At most 1,000 hours."),
});
export const KeepLadder = z.object({
  paper: z.enum(["requisition", "order"], "There is no such paper."),
  rungs: z.array(Rung).min(1, "A ladder has at least one rung.").max(12, "At most 12 rungs."),
});

/** Sets who signs a kind of paper, by amount. Papers that are being signed keep the rungs they were given. */
export function keepLadder(desk: Desk, raw: unknown): Done<{ rungs: number }> {
  const input = checked(KeepLadder, raw);
  if (!input.ok) return input;
  const { paper, rungs } = input.value;
  return once(desk, "keep settings", (tx) => {
    const { currency } = theCompany(tx.db);
    const problems: Problem[] = [];
    let below = -1;
    const amounts = rungs.map((r, i) => {
      const at = `rungs.${i}`;
      if (r.team !== "" && r.members.length === 0)
        problems.push({ field: `${at}.members`, says: "Say who signs here." });
      if (r.team === "" && r.members.length > 0)
        problems.push({ field: `${at}.team`, says: "Name this rung, such as Yard manager." });
      if (r.upTo === "") {
        if (i < rungs.length - 1)
          problems.push({ field: `${at}.upTo`, says: "Only the last rung can be without a limit." });
        return null;
      }
      const amount = parseMoney(r.upTo, currency);
      if (!amount.ok) problems.push({ field: `${at}.upTo`, says: amount.says });
      else if (amount.value <= below) problems.push({ field: `${at}.upTo`, says: "Amounts rise from rung to rung." });
      else below = amount.value;
      return amount.ok ? amount.value : null;
    });
    for (const { team, members } of rungs) {
      const same = rungs.find((r) => r.team.toLowerCase() === team.toLowerCase())!;
      if (team !== "" && same.members.join() !== members.join())
        problems.push({ field: "", says: `“${team}” stands on two rungs with different people.` });
    }
    if (problems.length) return refuseAll(problems);
    sql(tx.db, "DELETE FROM ladder WHERE paper = ?").run(paper);
    const name = paper === "order" ? "Orders" : "Requisitions";
    const ladder = sql(tx.db, "INSERT INTO ladder (paper, name, position) VALUES (?, ?, 1)").run(
      paper,
      name,
    ).lastInsertRowid;
    rungs.forEach((r, i) => {
      let team: number | null = null;
      if (r.team !== "") {
        team = sql<{ id: number }>(
          tx.db,
          "INSERT INTO team (name) VALUES (?) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id",
        ).get(r.team)!.id;
        sql(tx.db, "DELETE FROM team_member WHERE team = ?").run(team);
        for (const m of new Set(r.members))
          sql(tx.db, "INSERT INTO team_member (team, person) VALUES (?, ?)").run(team, m);
      }
      sql(tx.db, "INSERT INTO rung (ladder, position, up_to, team, hours) VALUES (?, ?, ?, ?, ?)").run(
        ladder,
        i + 1,
        amounts[i],
        team,
        r.hours,
      );
    });
    tx.record("ladder.kept", `ladder ${paper}`, { rungs });
    return done({ rungs: rungs.length });
  });
}
