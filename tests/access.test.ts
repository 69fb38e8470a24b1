import { join } from "node:path";
import type { RouteConfigEntry } from "@react-router/dev/routes";
import Database from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import routes from "../app/routes";
import { PEOPLE } from "../demo/company";
import { type House, openHouse } from "./house";

let house: House;
beforeAll(async () => {
  house = await openHouse();
});
afterAll(() => house.close());

const EVERYBODY = PEOPLE.map((p) => p.login).join(" ");
const BUYING = "ines sunniva";
const MONEY = `${BUYING} maud halden petra runa`;

/** Who opens which page, by name in the demo company: one of each role. Everybody else is told that it is not theirs. */
const OPENS: Record<string, string> = {
  today: EVERYBODY,
  me: EVERYBODY,
  counts: EVERYBODY,
  requisitions: `${BUYING} joss osk runa`,
  "requisitions/open-lines": `${BUYING} joss osk runa`,
  items: EVERYBODY,
  "items/1": EVERYBODY,
  "items/1/movements": EVERYBODY,
  "items/rows": EVERYBODY,
  "items.csv": EVERYBODY,
  "items.xlsx": EVERYBODY,
  "items/slip?id=1": EVERYBODY,
  find: EVERYBODY,
  needs: `${BUYING} runa`,
  "needs/rows": `${BUYING} runa`,
  "needs/slip?key=s:8:1": `${BUYING} runa`,
  "needs/tick": `${BUYING} runa`,
  "needs/review": `${BUYING} runa`,
  "needs/review/slip?item=1&store=1": `${BUYING} runa`,
  "needs.csv": `${BUYING} runa`,
  "needs.json": `${BUYING} runa`,
  "needs/bring": BUYING,
  "needs/sort-out": BUYING,
  bench: `${BUYING} runa`,
  "bench/1": `${BUYING} runa`,
  "bench/1/write": BUYING,
  "bench/1/ask": BUYING,
  "quotes/1": `${BUYING} runa`,
  "bench/1/tick": `${BUYING} runa`,
  "bench/1/fill-up?order=1/1&kind=freight": BUYING,
  "bench/1/model.lp": `${BUYING} runa`,
  round: `${BUYING} joss tobias`,
  "round/known?store=1": `${BUYING} joss tobias`,
  transfers: `${BUYING} joss tobias runa`,
  "transfers/1": `${BUYING} joss tobias runa`,
  jobs: `${BUYING} joss maud halden osk runa`,
  "jobs/1": `${BUYING} joss maud halden osk runa`,
  "jobs/new": `${BUYING} osk`,
  "with-suppliers": MONEY,
  orders: MONEY,
  answers: MONEY,
  chase: MONEY,
  overdue: MONEY,
  "chase/preview?supplier=1": MONEY,
  "overdue.csv": MONEY,
  "overdue.xlsx": MONEY,
  "answers/does?order=1&answer=1": MONEY,
  "their-stock?of=1": `${BUYING} runa`,
  "answers.csv": MONEY,
  "open-lines.csv": MONEY,
  "open-lines.json": MONEY,
  "orders/rows": MONEY,
  "orders.csv": MONEY,
  "orders.xlsx": MONEY,
  "orders/1/look": MONEY,
  "orders/1/versions": MONEY,
  "orders/1/try-change": BUYING,
  "orders/1/lines": `${BUYING} runa`,
  "orders/1/lines.csv": MONEY,
  "orders/1/lines.xlsx": MONEY,
  "orders/new": BUYING,
  blankets: MONEY,
  budgets: MONEY,
  "budgets/1/papers": MONEY,
  insight: MONEY,
  "insight/why": MONEY,
  "insight/suppliers": MONEY,
  "insight/stops": MONEY,
  "insight/ahead": MONEY,
  "insight/ahead-of?key=late": MONEY,
  "insight/ahead.csv": MONEY,
  "insight/ahead.json": MONEY,
  "insight/stock": "sunniva petra runa",
  "insight/stock-of?key=1": "sunniva petra runa",
  "insight/stock.csv": "sunniva petra runa",
  "insight/stock.json": "sunniva petra runa",
  "insight/prices": MONEY,
  "insight/lists": MONEY,
  "insight/moved-prices?supplier=1": MONEY,
  "insight/paid-of?item=1": MONEY,
  "insight/papers?is-supplier=1": MONEY,
  "insight/breakdown.csv": MONEY,
  "insight/breakdown.xlsx": MONEY,
  "insight/breakdown.json": MONEY,
  "insight/breakdown.pdf": MONEY,
  "suppliers/1/record.pdf": MONEY,
  "suppliers/1/record": MONEY,
  marks: "sunniva osk",
  papers: "sunniva osk",
  batches: MONEY,
  "sign-off/order/1/slip": MONEY,
  "sign-off": MONEY,
  "sign-off.csv": MONEY,
  "sign-off/link/none": `${BUYING} maud halden petra`,
  ladders: `${MONEY} osk`,
  "ladders.json": `${MONEY} osk`,
  "ladders.schema.json": EVERYBODY,
  departments: "sunniva osk",
  dock: `${BUYING} tobias runa`,
  "open-count": "tobias",
  "open-count/find?store=1&code=X": "tobias",
  "open-count/known?store=1": "tobias",
  values: "sunniva petra runa",
  "labels?item=1": `${BUYING} tobias osk`,
  "label-layouts": "sunniva osk",
  stow: `${BUYING} tobias osk runa`,
  "stow/list.pdf": `${BUYING} tobias osk runa`,
  shelves: `${BUYING} tobias osk runa`,
  consigned: `${BUYING} joss tobias petra runa`,
  "consigned.csv": `${BUYING} joss tobias petra runa`,
  "consigned/register": `${BUYING} tobias`,
  refills: BUYING,
  "refills/1/paper.pdf": `${BUYING} joss tobias petra runa`,
  "refills/1/lines.csv": `${BUYING} joss tobias petra runa`,
  agreements: MONEY,
  "agreements/1": MONEY,
  "agreements/1/paper.pdf": MONEY,
  statements: MONEY,
  settle: `${BUYING} petra runa`,
  "settle/new": "petra",
  "settle/1": `${BUYING} petra runa`,
  claims: `${BUYING} petra runa`,
  payables: "sunniva petra runa",
  books: "sunniva petra runa",
  "books/journal.csv": "sunniva petra runa",
  "books/audit.xml": "sunniva petra runa",
  "pay-lists": "sunniva petra runa",
  "pay-lists/new": "petra",
  "pay-lists/1": "sunniva petra runa",
  "pay-lists/1/bank.xml": "sunniva petra runa",
  "statements/1": MONEY,
  "statements/1/paper.pdf": MONEY,
  "statements/1/uses.csv": MONEY,
  "statements/1/invoice.xml": MONEY,
  bins: "sunniva tobias osk",
  "stock-papers": `${BUYING} tobias osk runa`,
  "stock-counts": `${BUYING} tobias osk runa`,
  "set-aside": `${BUYING} tobias runa`,
  returns: `${BUYING} tobias runa`,
  tolerances: `${BUYING} osk runa`,
  suppliers: `${MONEY} osk`,
  "suppliers/new": `${BUYING} osk`,
  "suppliers/1": `${MONEY} osk`,
  "suppliers/1/prices.csv": `${MONEY} osk`,
  "suppliers/1/prices.xlsx": `${MONEY} osk`,
  "items/new": "sunniva osk",
  "items/1/suppliers-to-add": `${BUYING} osk`,
  "outbox/1/mail.eml": `${BUYING} osk runa`,
  outbox: `${BUYING} osk runa`,
  files: "osk runa",
  "files/loading": EVERYBODY,
  "files/items/save.csv": "osk runa",
  people: "osk",
  settings: "osk",
  trail: "osk runa",
  house: "osk",
};
/** Whose they are is asked of the paper itself, not of the role alone: see the tests of views and of the journey. */
const PAPERS = [
  "orders/:id",
  "orders/:id/paper.pdf",
  "orders/:id/order.xml",
  "orders/:id/files/:file",
  "batches/:id",
  "batches/:id/tick",
  "batches/:id/papers.zip",
  "settle/:id/files/:file",
  "settle/:id/self-billed.xml",
  "suppliers/:id/files/:file",
  "requisitions/:id",
  "requisitions/:id/files/:file",
  "receipts/:id",
  "receipts/:id/paper.pdf",
  "receipts/:id/receipt-advice.xml",
  "returns/:id/paper.pdf",
  "set-aside/:id/picture",
  "stock-papers/:id",
  "stock-papers/:id/paper.pdf",
  "stock-counts/:id",
  ":order", // of the dock: a load shows itself at its own store alone
];
/** Pages without anybody, and addresses that only take acts. */
const OTHERS = [
  "order/:link",
  "order/:link/paper.pdf",
  "order/:link/order.xml",
  "order/:link/files/:file",
  "quote/:link",
  "their-shelf/:link",
  "their-shelf/:link/statements/:id/:file",
  "arrivals/:link.ics",
  "availability.schema.json",
  "sign-in",
  "sign-out",
  "first-run",
  "*",
];
const ACTS: Record<string, string> = {
  "dock/1/send": "tobias",
  "open-count/send": "tobias",
  "dock/1/note": "tobias",
  "consigned/register/file": `${BUYING} tobias`,
  "labels/print": `${BUYING} tobias osk`,
  "labels/preview": "sunniva osk",
  "needs/choose": BUYING,
  "bench/1/choose": BUYING,
  "papers/preview": "sunniva osk",
  "round/send": `${BUYING} joss tobias`,
  "requisitions/1/keep": `${BUYING} joss`,
  "orders/1/keep": BUYING,
  "ladders/keep": "sunniva osk",
  "ladders/try": "sunniva osk",
  "sign-off/try": EVERYBODY,
  "answers/send": BUYING,
};

const patternOf = (path: string) => {
  const bare = path.split("?")[0]!;
  return bare
    .replace(/\/1(?=\/|$)/g, "/:id")
    .replace("files/items/", "files/:kind/")
    .replace("sign-off/order/", "sign-off/:paper/")
    .replace("link/none", "link/:link");
};

describe("papers of others", () => {
  const status = async (name: string, path: string) => {
    const page = await house.as(name);
    return (await page.request.get(`${house.url}/${path}`)).status();
  };
  const one = (text: string) => {
    const db = new Database(join(house.folder, "wharf-tally.db"), { readonly: true });
    const id = db.prepare(text).pluck().get();
    db.close();
    return id;
  };

  it("are not read before they were handed in, by whichever address", async () => {
    const draft = one("SELECT id FROM requisition WHERE state = 'Draft'");
    expect(await status("Joss", `requisitions/${draft}`)).toBe(200);
    for (const name of ["Ines", "Maud", "Runa"])
      for (const path of [`requisitions/${draft}`, `sign-off/requisition/${draft}/slip`])
        expect([name, path, await status(name, path)]).toEqual([name, path, 403]);
  });

  it("are not read on the dock of another store", async () => {
    const [ours, theirs] = [1, 2].map((store) => one(`SELECT max(id) FROM receipt WHERE store = ${store}`));
    expect([await status("Tobias", `receipts/${ours}`), await status("Tobias", `receipts/${theirs}`)]).toEqual([
      200, 403,
    ]);
    expect(await status("Ines", `receipts/${theirs}`)).toBe(200);
  });
});

/** The addresses of pages, as patterns: what else there is answers with a file or with data. */
function pagePatterns(): Set<string> {
  const found = new Set<string>();
  const walk = (entries: RouteConfigEntry[]) => {
    for (const e of entries) {
      if (e.path && e.file.endsWith(".tsx")) found.add(e.path);
      walk(e.children ?? []);
    }
  };
  walk(routes as RouteConfigEntry[]);
  return found;
}

describe("who opens what", () => {
  it("is said for every address there is", () => {
    const all: string[] = [];
    const walk = (entries: RouteConfigEntry[]) => {
      for (const e of entries) {
        if (e.path) all.push(e.path);
        walk(e.children ?? []);
      }
    };
    walk(routes as RouteConfigEntry[]);
    const said = [
      ...[...Object.keys(OPENS), ...Object.keys(ACTS)].map(patternOf),
      ...PAPERS,
      ...OTHERS,
      "exchange/import",
    ];
    expect(all.toSorted()).toEqual(said.toSorted());
  });

  it.each(PEOPLE.map((p) => [p.roles[0]!, p.login, p.name]))(
    "for the %s is what the job needs, and nothing more",
    async (_role, login, name) => {
      const page = await house.as(name);
      const mine = (who: string) => who.split(" ").includes(login);
      const pages = pagePatterns();
      // What a page is drawn from is asked for alone, but for one person: drawing takes longer than answering.
      const asked = (path: string) =>
        login === "tobias" || !pages.has(patternOf(path)) ? path : path.replace(/(?=\?|$)/, ".data");
      const answers: Record<string, number> = {};
      const meant: Record<string, number> = {};
      for (const [path, who] of Object.entries(OPENS)) {
        answers[path] = (await page.request.get(`${house.url}/${asked(path)}`)).status();
        meant[path] = mine(who) ? 200 : 403;
      }
      for (const [path, who] of Object.entries(ACTS)) {
        const headers = { origin: house.url, "content-type": "application/json" };
        const answer = await page.request.post(`${house.url}/${path}`, { headers, data: { key: `from-${login}` } });
        // What is sent here says nothing, so whoever may act is told what is missing.
        answers[path] = answer.status() === 403 ? 403 : answer.status() < 500 ? 200 : answer.status();
        meant[path] = mine(who) ? 200 : 403;
      }
      expect(answers).toEqual(meant);
      await page.context().close();
    },
  );
});
