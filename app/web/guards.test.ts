import type { Request, Response } from "express";
import { expect, it } from "vitest";
import { ownHost, withFile, withoutLinks } from "./guards";

/** What a guard answers; 0 where it lets the request pass. */
function answer(guard: (q: Request, s: Response, next: () => void) => void, headers: Record<string, string>): number {
  let status = -1;
  const response = {
    status(n: number) {
      status = n;
      return response;
    },
    type: () => response,
    send: () => response,
  };
  guard({ headers } as unknown as Request, response as unknown as Response, () => {
    status = 0;
  });
  return status;
}

it.each([
  ["https://buy.kelpholm.example", "buy.kelpholm.example", 0],
  ["https://buy.kelpholm.example:8443", "buy.kelpholm.example:8443", 0],
  ["https://buy.kelpholm.example", "elsewhere.example", 421],
  ["", "localhost:4470", 0],
  ["", "127.0.0.1:4470", 0],
  ["", "[::1]:4470", 0],
  ["", "localhost.elsewhere.example", 421],
  ["", "", 421],
])("reached as %j by %j", (site, host, status) => {
  expect(answer(ownHost(site), { host })).toBe(status);
});

it("nothing is answered while the company's file is gone, and that is said once", () => {
  const said: string[] = [];
  let why: string | null = "gone";
  const guard = withFile(
    () => why,
    (w) => said.push(w),
  );
  expect([answer(guard, {}), answer(guard, {})]).toEqual([503, 503]);
  expect(said).toEqual(["gone"]);
  why = null;
  expect(answer(guard, {})).toBe(0);
});

it.each([
  ["/quote/abc-DEF_1.data?x=1", "/quote/….data?x=1"],
  ["/order/abc/paper.pdf", "/order/…/paper.pdf"],
  ["/sign-off/link/abc?a", "/sign-off/link/…?a"],
  ["/sign-in?to=%2Fsign-off%2Flink%2Fabc", "/sign-in?to=%2Fsign-off%2Flink%2F…"],
  ["/sign-in?to=/order/abc", "/sign-in?to=/order/…"],
  ["/orders/17", "/orders/17"],
])("the log holds no private link: %s", (url, logged) => {
  expect(withoutLinks(url)).toBe(logged);
});
