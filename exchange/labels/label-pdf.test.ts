import { expect, it } from "vitest";
import type { LabelGoods, LabelLayout } from "../../core/stock/label";
import { wordsOn } from "../pdf/testing";
import { labelsPdf } from "./label-pdf";

const goods: LabelGoods = {
  texts: { name: "Hull anode, 11 kg weld-on, of zinc, with a very long name", code: "ANO-11W", lot: "L7", bin: "A2" },
  code: "ANO-11W",
  gtin: "4006381333931",
  lot: "L7",
  serial: false,
  expires: null,
};
const layout: LabelLayout = {
  kind: "lot",
  width: 700,
  height: 370,
  code: "GS1 matrix",
  fields: [
    { field: "name", size: 9, bold: true },
    { field: "code", size: 8, bold: false },
    { field: "lot", size: 8, bold: false },
  ],
  sheet: { width: 2100, height: 2970, left: 0, top: 0, columns: 3, rows: 8, gapX: 0, gapY: 0 },
};
const run = { layout, goods: [{ of: goods, copies: 24 }], skip: 0, day: "2026-11-24" };

it("labels fill their sheets, or a roll one by one, and say how far they are", async () => {
  const said: number[] = [];
  const { pdf } = await labelsPdf({ ...run, skip: 2 }, (done) => said.push(done));
  const pages = await wordsOn(pdf);
  expect(pages.map((p) => p.split("ANO-11W").length - 1)).toEqual([22, 2]);
  expect(said).toEqual([0, 22, 24]);
  const roll = await labelsPdf({ ...run, layout: { ...layout, sheet: null }, goods: [{ of: goods, copies: 3 }] });
  expect(await wordsOn(roll.pdf)).toHaveLength(3);
});

it("what has no room is left out, and said; what is empty takes none", async () => {
  const tight = { ...layout, height: 130, sheet: null };
  expect((await labelsPdf({ ...run, layout: tight })).leftOut).toEqual(["code", "lot"]);
  const { leftOut, pdf } = await labelsPdf({
    ...run,
    layout: { ...layout, fields: [...layout.fields, { field: "order", size: 40, bold: true }] },
  });
  expect(leftOut).toEqual([]);
  expect((await wordsOn(pdf))[0]).toContain("with a very long name");
});

it("the same labels are the same file", async () => {
  const [a, b] = [await labelsPdf(run), await labelsPdf(run)];
  const body = (pdf: Buffer) => pdf.toString("latin1").replace(/\/ID \[[^\]]*\]/, "");
  expect(body(a.pdf)).toBe(body(b.pdf));
});
