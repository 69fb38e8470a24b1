import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readOpenAsked } from "../../queries/needs/noted";
import { readRequisition, readRequisitions } from "../../queries/requisitions/requisition";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { writeOrders } from "../orders/write-orders";
import { meetByTransfer, moveTransfer } from "../stock/transfers";
import { attachFile, detachFile } from "./attach-file";
import { copyRequisition } from "./copy-requisition";
import { decideLine, declineLine } from "./decide-line";
import { returnRequisition, withdrawRequisition } from "./end-requisition";
import { saveRequisition, startRequisition, submitRequisition } from "./raise-requisition";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  sql(h.db, "INSERT INTO account VALUES ('4620', 'Repairs')").run();
  sql(
    h.db,
    "INSERT INTO budget (code, name, starts, ends, amount) VALUES ('YARD', 'Yard', '2026-01-01', '2026-12-31', 100)",
  ).run();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

function draft(watchers: string[] = []) {
  const { requisition } = must(startRequisition(h.desk("joss")));
  must(
    saveRequisition(h.desk("joss"), {
      requisition,
      version: 1,
      store: h.id("store", "HS"),
      neededBy: "2026-12-18",
      reason: "Loft of Marram",
      lines: [
        { item: h.id("item", "ANO"), words: "", quantity: "4", estimate: "", budget: 1 },
        { item: "", words: "Fids, a set", kind: "goods", quantity: "2", estimate: "84", account: "4620" },
      ],
      watchers: watchers.map((w) => h.id("person", w)),
    }),
  );
  return requisition;
}
function open(watchers: string[] = []) {
  const id = draft(watchers);
  must(submitRequisition(h.desk("joss"), { requisition: id, version: 2 }));
  return id;
}
const linesOf = (id: number) => readRequisition(h.db, id)!.lines;
const news = (who: string) =>
  sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ? AND read IS NULL ORDER BY id")
    .all(h.id("person", who))
    .map((n) => n.text);
const at = (id: number) => ({ requisition: id, version: versionOf(h.db, "requisition", id) });
const needs = () => readNeeds(h.db, PLAN).filter((n) => n.source === "requisition");

describe("a requisition in full", () => {
  it("names goods without a code, its budget line, its account, and who else is told", () => {
    const id = open(["anders"]);
    expect(linesOf(id).map((l) => [l.kind, l.budget?.code ?? null, l.account])).toEqual([
      ["service", "YARD", null],
      ["goods", null, "4620"],
    ]);
    expect(needs().map((n) => [n.name, n.kind])).toEqual([
      ["Hull anode", "stocked"],
      ["Fids, a set", "not stocked"],
    ]);
    expect(readRequisitions(h.db, h.id("person", "anders")).map((r) => r.id)).toEqual([id]);
    expect(readRequisitions(h.db, h.id("person", "maud"))).toEqual([]);
  });
  it("shows what the buyer offers instead, and why; the need follows", () => {
    const id = open(["anders"]);
    const [anode] = linesOf(id);
    expect(refusal(decideLine(h.desk("ines"), { line: anode!.id, quantity: "4", offered: "", why: "none" }))).toEqual([
      "quantity: Change the quantity, or offer something else.",
    ]);
    must(decideLine(h.desk("ines"), { line: anode!.id, quantity: "3", offered: "", why: "One lies unused" }));
    expect(needs()[0]!.wanted).toBe(30_000);
    must(
      decideLine(h.desk("ines"), { line: anode!.id, quantity: "2", offered: h.id("item", "ROP"), why: "Rope will do" }),
    );
    expect(needs().map((n) => [n.code, n.wanted])).toContainEqual(["ROP", 20_000]);
    expect(linesOf(id)[0]!.decided).toMatchObject({
      quantity: 20_000,
      offered: { code: "ROP" },
      why: "Rope will do",
      by: "Ines",
    });
    expect(news("joss")).toEqual([
      "The buyer offers 3 of Hull anode",
      "The buyer offers Mooring rope instead of Hull anode",
    ]);
    expect(news("anders")).toEqual(news("joss"));
    expect(readRequisition(h.db, id)!.trail.map((t) => t.text)).toContain("Offered: 3 of Hull anode");
  });
  it("is declined line by line, and as a whole once nothing is left", () => {
    const id = open();
    const [anode, fids] = linesOf(id);
    expect(refusal(declineLine(h.desk("ines"), { line: fids!.id, reason: "no" }))).toEqual([
      "reason: Say why, so that the asker understands.",
    ]);
    must(declineLine(h.desk("ines"), { line: fids!.id, reason: "There are some in the loft" }));
    expect([stateOf(h.db, "requisition", id), needs().length]).toEqual(["Open", 1]);
    expect(refusal(declineLine(h.desk("ines"), { line: fids!.id, reason: "again" }))).toEqual([
      "This line is not open any more.",
    ]);
    must(declineLine(h.desk("ines"), { line: anode!.id, reason: "Not this year" }));
    expect(stateOf(h.db, "requisition", id)).toBe("Declined");
    expect(news("joss")).toEqual(["Declined: Fids, a set", "Declined: Hull anode"]);
  });
  it("cannot be declined, changed, sent back or withdrawn once it is ordered", () => {
    const id = open();
    must(writeOrders(h.desk("ines"), { picks: [{ need: needs()[0]!.key }] }));
    expect(stateOf(h.db, "requisition", id)).toBe("Part ordered");
    expect(refusal(declineLine(h.desk("ines"), { line: linesOf(id)[0]!.id, reason: "late" }))[0]).toMatch(
      /on an order or a transfer already/,
    );
    expect(refusal(withdrawRequisition(h.desk("joss"), { ...at(id), reason: "" }))[0]).toMatch(
      /can no longer be withdrawn/,
    );
    expect(refusal(returnRequisition(h.desk("ines"), { ...at(id), reason: "more" }))[0]).toMatch(/cannot be sent back/);
    expect(readOpenAsked(h.db, null).map((r) => [r.what, r.order])).toEqual([
      ["Hull anode", "draft"],
      ["Fids, a set", ""],
    ]);
  });
  it("is withdrawn by its asker alone, or sent back by the buyer with a reason", () => {
    const id = open();
    expect(refusal(withdrawRequisition(h.desk("anders"), { ...at(id), reason: "" }))).toEqual([
      "Only whoever asked can withdraw it.",
    ]);
    expect(withdrawRequisition(h.desk("joss"), { requisition: id, version: 1, reason: "" })).toMatchObject({
      stale: true,
    });
    must(withdrawRequisition(h.desk("joss"), { ...at(id), reason: "found some" }));
    expect([stateOf(h.db, "requisition", id), needs().length]).toEqual(["Withdrawn", 0]);
    const other = open();
    must(returnRequisition(h.desk("ines"), { ...at(other), reason: "Which anode?" }));
    expect([stateOf(h.db, "requisition", other), readRequisition(h.db, other)!.head.sentBack]).toEqual([
      "Draft",
      "Which anode? (Ines)",
    ]);
    expect(news("joss")).toContain("Requisition R26-1002 was sent back");
  });
  it("is copied with its lines and followers, and leaves the date to be said", () => {
    const id = open(["anders"]);
    const copy = must(copyRequisition(h.desk("joss"), { requisition: id })).requisition;
    const sheet = readRequisition(h.db, copy)!;
    expect([
      sheet.head.state,
      sheet.head.neededBy,
      sheet.head.number,
      sheet.lines.map((l) => l.itemName ?? l.words),
    ]).toEqual(["Draft", null, null, ["Hull anode", "Fids, a set"]]);
    expect(sheet.watchers.map((p) => p.name)).toEqual(["Anders"]);
    expect(refusal(copyRequisition(h.desk("tobias"), { requisition: id }))).toEqual(["Your role does not allow this."]);
  });
  it("is met by a transfer, too", () => {
    const id = open();
    const { transfer } = must(
      meetByTransfer(h.desk("ines"), {
        need: needs()[0]!.key,
        item: h.id("item", "ANO"),
        from: h.id("store", "TQ"),
        quantity: "4",
      }),
    );
    must(declineLine(h.desk("ines"), { line: linesOf(id)[1]!.id, reason: "There are some" }));
    expect(stateOf(h.db, "requisition", id)).toBe("Ordered");
    must(moveTransfer(h.desk("tobias"), { transfer, version: 1 }));
    expect(stateOf(h.db, "requisition", id)).toBe("Met");
    expect(readRequisition(h.db, id)!.trail.map((t) => t.text)).toContain("Transfer T26-1001 moved");
  });
});

describe("files with a requisition", () => {
  const pdf = Buffer.from("%PDF-1.7 drawing");
  it("are what they say they are, of a size, and belong to its asker", () => {
    const id = draft();
    must(attachFile(h.desk("joss"), id, "C:\\plans\\stern “gear”.pdf", pdf));
    expect(readRequisition(h.db, id)!.attachments).toMatchObject([{ name: "stern _gear_.pdf", size: pdf.length }]);
    const no = (name: string, bytes: Uint8Array, who = "joss") => refusal(attachFile(h.desk(who), id, name, bytes))[0];
    expect(no("plan.pdf", Buffer.from("<script>"))).toMatch(/^file: A PDF, a picture/);
    expect(no("run.exe", pdf)).toMatch(/^file: A PDF, a picture/);
    expect(no("plan.pdf", Buffer.alloc(0))).toBe("file: This file is empty.");
    expect(no("plan.pdf", Buffer.concat([pdf, Buffer.alloc(10_000_001)]))).toMatch(/At most 10 MB/);
    expect(no("plan.pdf", pdf, "anders")).toBe("This requisition is not yours, or is gone.");
  });
  it("come off a draft, and stay once it is handed in", () => {
    const id = draft();
    const { attachment } = must(attachFile(h.desk("joss"), id, "plan.pdf", pdf));
    must(submitRequisition(h.desk("joss"), { requisition: id, version: 2 }));
    expect(refusal(detachFile(h.desk("joss"), { attachment }))).toEqual([
      "The requisition was handed in with this file, so it stays.",
    ]);
    const other = draft();
    const second = must(attachFile(h.desk("joss"), other, "plan.pdf", pdf)).attachment;
    must(detachFile(h.desk("joss"), { attachment: second }));
    expect(readRequisition(h.db, other)!.attachments).toEqual([]);
  });
});
