import { afterEach, expect, it } from "vitest";
import { type Noted, Watch } from "./watch";

let watch: Watch;
afterEach(() => watch.end());
const AT = new Date("2026-11-24T08:00:00.000Z");

it("says how fast requests are answered, and notes those that are slow", () => {
  const told: Noted[] = [];
  watch = new Watch(
    () => AT,
    (n) => told.push(n),
  );
  for (let i = 1; i <= 98; i++) watch.answered("GET /needs", i);
  watch.answered("GET /orders", 1_500);
  expect(watch.read()).toMatchObject({ requests: 99, half: 50, most: 1_500 });
  expect(told).toEqual([{ at: AT.toISOString(), what: "slow request", of: "GET /orders", says: "", ms: 1_500 }]);
});

it("keeps what failed, the newest first, and not without end", () => {
  watch = new Watch(() => AT);
  for (let i = 0; i < 300; i++) watch.failed("failed job", `job ${i}`, new Error(`fault ${i}`));
  const { noted } = watch.read();
  expect(noted).toHaveLength(200);
  expect(noted[0]).toMatchObject({ of: "job 299", says: "fault 299" });
  watch.failed("fault", "GET /", "a word");
  expect(watch.read().noted[0]).toMatchObject({ what: "fault", says: "a word" });
});

it("measures how long the house hears nothing", async () => {
  watch = new Watch(() => AT);
  await new Promise((go) => setTimeout(go, 60));
  const until = performance.now() + 120;
  while (performance.now() < until);
  await new Promise((go) => setTimeout(go, 60));
  expect(watch.read().longestLag).toBeGreaterThanOrEqual(90);
});
