import type { Page } from "playwright-core";
import { launch } from "../tests/browser";

/** Runs in the page, so it is text: what compiles this file must not touch it. */
const WATCH = `
  window.held = [];
  window.drawn = [];
  new PerformanceObserver((list) => {
    for (const e of list.getEntries()) window.held.push(e.duration);
  }).observe({ entryTypes: ["longtask"] });`;
const BEGIN = `
  window.held.length = 0;
  window.drawn.length = 0;
  window.before = performance.now();
  window.each ??= () => {
    const now = performance.now();
    window.drawn.push(now - window.before);
    window.before = now;
    requestAnimationFrame(window.each);
  };
  if (!window.drawing) requestAnimationFrame(window.each);
  window.drawing = true;`;

type Measure = (what: string, act: () => Promise<void>) => Promise<void>;

/** Opens a page of the served application in Chromium; `use` acts on it, and what it measures is printed. */
export async function inChromium(
  { url, cookie, path }: { url: string; cookie: string; path: string },
  use: (page: Page, measure: Measure) => Promise<void>,
): Promise<void> {
  const browser = await launch();
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const [name, value] = cookie.split("=") as [string, string];
    await context.addCookies([{ name, value: decodeURIComponent(value), url }]);
    const page = await context.newPage();
    await page.addInitScript(WATCH);
    await page.goto(url + path);
    await page.waitForFunction(() => document.documentElement.dataset.live === location.pathname);
    await page.getByRole("row").nth(5).waitFor();
    await page.waitForTimeout(1500);
    await use(page, async (what, act) => {
      await page.evaluate(BEGIN);
      await act();
      const [long, frames] = (await page.evaluate("[[...window.held], [...window.drawn]]")) as [number[], number[]];
      frames.sort((a, b) => a - b);
      const at = (share: number) => frames[Math.min(frames.length - 1, Math.floor(frames.length * share))] ?? 0;
      console.log(
        `${what.padEnd(46)} ${frames.length} frames, median ${at(0.5).toFixed(1)} ms, 99th ${at(0.99).toFixed(1)} ms; ${long.length} tasks above 50 ms${long.length ? `, the longest ${Math.max(...long).toFixed(0)} ms` : ""} (aim 0)`,
      );
    });
  } finally {
    await browser.close();
  }
}

/** Scrolls and filters the sheet of needs: frames, and tasks that held the page up. */
export const scrollNeeds = (url: string, cookie: string): Promise<void> =>
  inChromium({ url, cookie, path: "/needs?group=none" }, async (page, measure) => {
    const rows = page.getByRole("region", { name: "Needs" });
    await measure("Scrolling 50,000 needs", async () => {
      await rows.hover();
      for (let i = 0; i < 80; i++) {
        await page.mouse.wheel(0, i < 60 ? 600 : 12_000);
        await page.waitForTimeout(40);
      }
    });
    await measure("To the end and back", async () => {
      for (const top of [1e9, 0, 9e5, 3e5, 1e9, 0]) {
        await rows.evaluate((e, y) => e.scrollTo(0, y), top);
        await page.waitForTimeout(250);
      }
    });
    await measure("Moving with the keys", async () => {
      for (let i = 0; i < 60; i++) await page.keyboard.press("ArrowDown");
      await page.waitForTimeout(400);
    });
    await measure("Finding as one types, and sorting", async () => {
      await page.getByLabel("Find in this sheet").pressSequentially("number 77", { delay: 60 });
      await page.waitForTimeout(800);
      await page.getByLabel("Find in this sheet").fill("");
      await page.waitForTimeout(800);
      await page.getByRole("button", { name: "Available" }).click();
      await page.waitForTimeout(800);
    });
  });
