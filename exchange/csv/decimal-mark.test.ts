import { describe, expect, it } from "vitest";
import { markOf, plainNumber } from "./decimal-mark";

describe("how the numbers of a file are written", () => {
  it("is told by those that leave no doubt", () => {
    expect(markOf(["8", "OIL", "12,5"])).toBe(",");
    expect(markOf(["0,500"])).toBe(",");
    expect(markOf(["1,250", "0,5"])).toBe(",");
    expect(markOf(["1.250", "12.5"])).toBe(".");
    expect(markOf(["8", "drum"])).toBe(".");
  });

  it("is asked where it could be either, or both stand there", () => {
    expect(markOf(["1,250"])).toBeNull();
    expect(markOf(["1.250"])).toBeNull();
    expect(markOf(["12,5", "12.5"])).toBeNull();
  });

  it("is never read as thousands", () => {
    expect(plainNumber("1,250", ",")).toBe("1.250");
    expect(plainNumber("1,250", ".")).toBeUndefined();
    expect(plainNumber("1.250,5", ",")).toBeUndefined();
    expect(plainNumber("-2", ".")).toBe("-2");
  });
});
