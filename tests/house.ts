import { type ChildProcess, spawn } from "node:child_process";
import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import axeCore from "axe-core";
import type { BrowserContext, Page, Request } from "playwright-core";
import { expect } from "vitest";
import { openToRead } from "../server/db/company-file";
import { brokenTruths } from "../server/queries/always-true";
import { SUPPLIER_BOOK } from "../server/standins/demo-suppliers";
import { sharedBrowser } from "./browser";
import { DAY, DEMO } from "./start";

/** What a new installation asks whoever sets it up. */
export const SET_UP_CODE = "reeds-and-tides";

/** A running Wharf Tally on a file of its own, and a browser to look at it. */
export interface House {
  url: string;
  folder: string;
  /** An empty window of somebody of the demo, signed in; one person's windows share their session, as in a browser; a size is another device. */
  as: (name: string, size?: { width: number; height: number }) => Promise<Page>;
  /** The same, with a page that listens. */
  at: (name: string, path: string, size?: { width: number; height: number }) => Promise<Page>;
  visitor: () => Promise<Page>;
  /** Ends it; unless told that it need not, everything that must hold in its file does hold. `afterwards` may look at the file. */
  close: (options?: { holds?: boolean; afterwards?: () => void }) => Promise<void>;
}

/** `before` may change the company's file before the house opens; `suppliers` answer as in the demo, also orders they get. */
export async function openHouse({
  demo = true,
  suppliers = false,
  before,
}: {
  demo?: boolean;
  suppliers?: boolean;
  before?: (file: string) => void;
} = {}): Promise<House> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-house-"));
  if (demo) copyFileSync(DEMO, join(folder, "wharf-tally.db"));
  if (suppliers) copyFileSync(join(dirname(DEMO), SUPPLIER_BOOK), join(folder, SUPPLIER_BOOK));
  before?.(join(folder, "wharf-tally.db"));
  const { server, url } = await serve(folder, demo);
  const people = new Map<string, Promise<BrowserContext>>();
  const opened: BrowserContext[] = [];
  const newContext = async () => {
    const context = await (await sharedBrowser()).newContext({ locale: "en-GB", acceptDownloads: true });
    opened.push(context);
    return context;
  };
  const open = async (context: BrowserContext, size = { width: 1280, height: 800 }) => {
    const page = await context.newPage();
    const under = new Set<Request>();
    asking.set(page, under);
    page.on("request", (r) => under.add(r));
    for (const end of ["requestfinished", "requestfailed"] as const)
      page.on(end as "requestfinished", (r) => under.delete(r));
    await page.setViewportSize(size);
    page.setDefaultTimeout(30_000);
    page.on("pageerror", (e) => {
      // A page that is left while an answer still comes says so; nobody is there to see it.
      if (e.message === "BodyStreamBuffer was aborted") return;
      throw new Error(`the page failed: ${e.message}`);
    });
    page.on("console", (m) => {
      if (/hydrat|Content Security Policy/i.test(m.text())) throw new Error(`the page said: ${m.text()}`);
    });
    return page;
  };
  const as: House["as"] = async (name, size) => {
    const context = (size ? undefined : people.get(name)) ?? signedIn(newContext(), url, folder, name);
    if (!size) people.set(name, context);
    return open(await context, size);
  };
  return {
    url,
    folder,
    visitor: async () => open(await newContext()),
    as,
    async at(name, path, size) {
      const page = await as(name, size);
      await page.goto(url + path);
      await ready(page);
      return page;
    },
    async close({ holds = true, afterwards = () => {} } = {}) {
      await Promise.all(opened.map((context) => context.close()));
      server.kill("SIGTERM");
      await new Promise((done) => server.once("exit", done));
      // Whatever the tests did, what must hold does hold.
      if (holds) {
        const db = openToRead(join(folder, "wharf-tally.db"));
        expect(brokenTruths(db)).toEqual([]);
        db.close();
      }
      afterwards();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Signs somebody of the demo in without drawing a page: most tests are about what comes after. */
async function signedIn(
  coming: Promise<BrowserContext>,
  url: string,
  folder: string,
  name: string,
): Promise<BrowserContext> {
  const context = await coming;
  const db = openToRead(join(folder, "wharf-tally.db"));
  const id = db.prepare<[string], number>("SELECT id FROM person WHERE name || ' ' LIKE ? || ' %'").pluck().get(name);
  db.close();
  const answer = await context.request.post(`${url}/sign-in`, {
    form: { as: String(id) },
    headers: { origin: url },
    maxRedirects: 0,
  });
  expect(answer.status()).toBe(302);
  return context;
}

function serve(folder: string, demo: boolean): Promise<{ server: ChildProcess; url: string }> {
  const env = {
    ...process.env,
    NODE_ENV: "production",
    PORT: "0",
    WHARF_DATA: folder,
    WHARF_DEMO: demo ? "1" : "0",
    WHARF_TODAY: DAY,
    WHARF_QUIET: "1",
    WHARF_SETUP_CODE: SET_UP_CODE,
  };
  const server = spawn(process.execPath, ["bin/serve.mjs"], { env, stdio: ["ignore", "pipe", "inherit"] });
  return new Promise((resolve, reject) => {
    server.once("exit", (code) => reject(new Error(`the server stopped with ${code}`)));
    server.stdout!.on("data", (chunk: Buffer) => {
      const url = /http:\/\/localhost:\d+/.exec(chunk.toString())?.[0];
      if (url) resolve({ server, url });
    });
  });
}

/** Waits until the page listens to keys and clicks. */
export async function ready(page: Page): Promise<void> {
  // The address changes before its page is drawn; the page says itself when it listens.
  await page.waitForFunction(() => document.documentElement.dataset.live === location.pathname);
  await page.getByRole("heading", { level: 1 }).waitFor();
  // What React does after drawing is done by the second frame.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
}

/** What each page has asked for and not been answered yet. */
const asking = new WeakMap<Page, Set<Request>>();

/** Waits until the page has been given all that it asked for, and has drawn it. */
export async function settled(page: Page): Promise<void> {
  const drawn = () =>
    page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await drawn();
  await expect.poll(() => asking.get(page)!.size).toBe(0);
  await drawn();
}

export async function go(page: Page, house: House, path: string): Promise<void> {
  await page.goto(house.url + path);
  await ready(page);
}

/** No violation of WCAG 2.2 AA that a machine can find. */
export async function accessible(page: Page, what: string): Promise<void> {
  await page.evaluate(axeCore.source);
  const found = await page.evaluate(async () => {
    const axe = (window as unknown as { axe: typeof axeCore }).axe;
    // What stays in sight covers whatever is scrolled under it just now, which is no smaller for that.
    const unstuck = new CSSStyleSheet();
    unstuck.replaceSync('[class*="sticky"] { position: static !important }');
    document.adoptedStyleSheets.push(unstuck);
    const { violations } = await axe.run(document, {
      runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"],
      resultTypes: ["violations"],
      preload: false, // no rule that is asked for reads style sheets
    });
    document.adoptedStyleSheets.pop();
    return violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.html.slice(0, 160))
          .slice(0, 3)
          .join(" | ")}`,
    );
  });
  expect(found, what).toEqual([]);
}
