import { expect, it } from "vitest";
import { ONE, purchase } from "../numbers/quantity";
import { judge, judgeWords } from "./count";

const q = (n: number) => purchase(n * ONE);

it("judges a count against what is open", () => {
  const line = { ordered: q(48), received: q(20) };
  expect(judge(line, null)).toEqual({ kind: "not counted" });
  expect(judge(line, q(28))).toEqual({ kind: "as ordered" });
  expect(judge(line, q(27))).toEqual({ kind: "part", left: q(1) });
  expect(judgeWords(judge(line, q(30)), "each")).toBe("2 each more than was ordered");
});
