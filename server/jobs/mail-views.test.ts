import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays, toDay } from "../../core/calendar/day";
import { reportPdf } from "../../exchange/pdf/report-paper";
import { keepView, mailView, readViews, shareView } from "../acts/views/keep-view";
import { sql } from "../db/open";
import { must, refusal, type TestHouse, testHouse } from "../testing";
import { isMailed, mailedDays, mailViews } from "./mail-views";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const draw = (_: unknown, document: Parameters<typeof reportPdf>[0]) => reportPdf(document);
const kept = (login = "ines", name = "Oils by month") =>
  must(
    keepView(h.desk(login), {
      sheet: "insight",
      name,
      address: "rows=category&columns=month&from=2026-11-01&to=2026-11-10",
    }),
  ).view;
const send = (day: string) =>
  mailViews(h.db, { now: `${day}T06:00:00.000Z`, day: toDay(day), site: "https://tally.example" }, draw);

describe("a breakdown that is sent", () => {
  it("goes out once when the next week or month begins, however late the house wakes", () => {
    const week = (mailed: string, day: string) => isMailed({ every: "week", mailed: toDay(mailed) }, toDay(day));
    expect([
      week("2026-11-24", "2026-11-29"),
      week("2026-11-24", "2026-11-30"),
      week("2026-11-30", "2026-12-02"),
    ]).toEqual([false, true, false]);
    expect(week("2026-11-24", "2027-01-07")).toBe(true);
    const month = (mailed: string, day: string) => isMailed({ every: "month", mailed: toDay(mailed) }, toDay(day));
    expect([month("2026-11-01", "2026-11-30"), month("2026-11-24", "2026-12-01")]).toEqual([false, true]);
  });

  it("moves its days along, up to the day before", () => {
    expect(mailedDays("rows=item&from=2026-11-01&to=2026-11-10", toDay("2026-12-07"))).toMatchObject({
      from: "2026-11-27",
      until: "2026-12-06",
      rows: "item",
    });
    expect(mailedDays("", toDay("2026-12-07"))).toMatchObject({ from: "2025-12-07", until: "2026-12-06" });
  });

  it("goes to whoever asked for it, with a paper and a workbook, once, and not to who may not see it any more", async () => {
    const view = kept();
    must(mailView(h.desk("ines"), { view, every: "week" }));
    const monday = addDays(h.desk("ines").day, 14);
    expect(await send(h.desk("ines").day)).toBe(0);
    expect(await send(monday)).toBe(1);
    expect(await send(monday)).toBe(0);
    const mail = sql<{ recipients: string; subject: string; eml: Buffer }>(
      h.db,
      "SELECT recipients, subject, eml FROM mail ORDER BY id DESC LIMIT 1",
    ).get()!;
    expect(mail.subject).toBe("Oils by month: received by category");
    const eml = mail.eml.toString();
    const text = eml.replaceAll("=\r\n", "").replaceAll("=3D", "=");
    expect(text).toContain(`<${mail.recipients}>`);
    expect([...eml.matchAll(/filename=(\S+)/g)].map((m) => m[1])).toEqual(["breakdown.pdf", "breakdown.xlsx"]);
    expect(text).toContain("https://tally.example/insight?rows=category&columns=month&from=");
    expect(sql(h.db, "SELECT count(*) FROM audit WHERE act = 'view.sent'").pluck().get()).toBe(1);
    sql(h.db, "DELETE FROM person_role WHERE person = ?").run(h.id("person", "ines"));
    expect(await send(addDays(monday, 7))).toBe(0);
  });

  it("is its owner's alone to send and to share; shared, others use it and cannot change it", () => {
    const view = kept();
    expect(refusal(mailView(h.desk("maud"), { view, every: "week" }))).toEqual([
      "This view is gone already, or is not yours.",
    ]);
    expect(refusal(mailView(h.desk("ines"), { view, every: "day" }))).toHaveLength(1);
    const seen = (login: string) => readViews(h.db, h.id("person", login), "insight").map((v) => [v.name, v.by]);
    expect(seen("maud")).toEqual([]);
    must(shareView(h.desk("ines"), { view, shared: "on" }));
    expect(seen("ines")).toEqual([["Oils by month", null]]);
    expect(seen("maud")).toEqual([
      ["Oils by month", sql(h.db, "SELECT name FROM person WHERE login = 'ines'").pluck().get()],
    ]);
    expect(refusal(shareView(h.desk("maud"), { view, shared: "" }))).toHaveLength(1);
    must(shareView(h.desk("ines"), { view, shared: "" }));
    expect(seen("maud")).toEqual([]);
    const needs = must(keepView(h.desk("ines"), { sheet: "needs", name: "Late", address: "" })).view;
    expect(refusal(mailView(h.desk("ines"), { view: needs, every: "week" }))).toHaveLength(1);
  });
});
