import { describe, expect, it } from "vitest";
import { gtinForms, isMisread, readScan, type Scanned } from "./scan";

const read = (text: string): Scanned => {
  const answer = readScan(text);
  if (!answer.ok) throw new Error(answer.says);
  return answer.value;
};

describe("a scanned code", () => {
  it("is a plain code where it holds no elements, also behind a scanner's sign", () => {
    expect(read(" HYD-046 ").code).toBe("HYD-046");
    expect(read("]C0HYD-046").code).toBe("HYD-046");
    expect(read("4006381333931")).toMatchObject({ code: "4006381333931", gtin: null });
    expect(read("0100").code).toBe("0100"); // begins like an element and is none
  });
  it("gives GTIN, lot, expiry, serial number, weight, count and pallet", () => {
    expect(read("]C101040063813339311727120110A7\u001d3710")).toMatchObject({
      gtin: "04006381333931",
      expires: "2027-12-01",
      lot: "A7",
      count: 100_000,
    });
    expect(read("(01)04006381333931(21)S-118(3103)001250")).toMatchObject({ serial: "S-118", weight: 12_500 });
    expect(read("]d20104006381333931171501003100000012")).toMatchObject({ weight: 120_000, expires: "2015-01-31" });
    expect(read("]C100340123450000000000")).toMatchObject({ pallet: "340123450000000000", gtin: null });
  });
  it("is refused where its check digit does not fit, or a part is missing", () => {
    expect(readScan("]d20104006381333932")).toEqual({
      ok: false,
      says: "The check digit of 04006381333932 does not fit: it was read wrongly.",
    });
    expect(readScan("]C1010400638133").ok).toBe(false);
    expect(isMisread("4006381333932")).toBe(true);
    expect(isMisread("4006381333931")).toBe(false);
    expect(isMisread("HYD-046")).toBe(false);
  });
  it("knows a GTIN in every length", () => {
    expect(gtinForms("04006381333931")).toEqual(["4006381333931", "04006381333931"]);
    expect(gtinForms("00000096385074")).toEqual(["96385074", "000096385074", "0000096385074", "00000096385074"]);
  });
});
