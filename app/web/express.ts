import { randomBytes } from "node:crypto";
import { dirname, join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import { pino } from "pino";
import { pinoHttp } from "pino-http";
import { RouterContextProvider } from "react-router";
import { dueAt } from "../../core/signoff/hours";
import { keepCommitments } from "../../server/acts/budgets/keep-commitments";
import { endAgreements } from "../../server/acts/consigned/end-agreements";
import { tickConsigned } from "../../server/acts/consigned/ripen";
import { tickStatements } from "../../server/acts/consigned/statement";
import { fillLineValues } from "../../server/acts/insight/line-values";
import { sweepMarks } from "../../server/acts/orders/marks";
import { valueStock } from "../../server/acts/stock/value-stock";
import { tickChase } from "../../server/acts/suppliers/chase";
import { isFirstRun, newSetUpCode } from "../../server/auth/first-run";
import { isBusy, patiently } from "../../server/db/busy";
import { isAnswering, noteSetUp, openCompany, watch } from "../../server/db/company-file";
import { home } from "../../server/db/migrate";
import { checkTrail } from "../../server/jobs/check-trail";
import { dismissCrew } from "../../server/jobs/crew";
import { handToBank } from "../../server/jobs/hand-to-bank";
import { takeInbox } from "../../server/jobs/inbox";
import { noLoading } from "../../server/jobs/loads";
import { mailViews } from "../../server/jobs/mail-views";
import { drawReport } from "../../server/jobs/papers/draw";
import { batchesDone, runBatch, sweepPapers } from "../../server/jobs/papers/run-batch";
import { tickSignOff } from "../../server/jobs/signoff/clock";
import { mailSignOff } from "../../server/jobs/signoff/mail";
import { sweepOld } from "../../server/jobs/sweep";
import { Watch } from "../../server/jobs/watch";
import { calendars } from "../../server/queries/calendars";
import { readCompany } from "../../server/queries/company";
import { openBatches } from "../../server/queries/papers/batches";
import { openDemoSuppliers } from "../../server/standins/demo-suppliers";
import { postMail } from "../../server/standins/post-office";
import { ownHost, sameOrigin, withFile, withoutLinks } from "./guards";
import { batchHouse, house, now, setClock, today } from "./house";
import { Running } from "./running";

export interface Serving {
  /** The company's file. */
  file: string;
  port: number;
  /** Loopback by default; a real installation stands behind its own TLS proxy. */
  host?: string;
  demo?: boolean;
  quiet?: boolean;
}

/** How long stopping waits for what is being answered, and for batches and files in the workers. */
const LONGEST_ANSWER = 60_000;
const LONGEST_WORK = 600_000;

/** Opens the file and serves the application. Resolves once it listens; throws an `UnfitFile` where the file is not fit. */
export async function serve({ file, port, host = "127.0.0.1", demo = false, quiet = false }: Serving) {
  const db = openCompany(file);
  // What writes waits beside the server, and does not hold it up: server/db/busy.ts.
  db.pragma("busy_timeout = 30");
  const whyNot = watch(file);
  const company = readCompany(db);
  setClock(company?.timeZone ?? "");
  if (company) noteSetUp(file);
  const folder = dirname(file);
  const log = pino({ level: quiet ? "error" : "info" });
  // What only time brings is looked at when the house opens, and every hour.
  const sweep = () => {
    sweepMarks(db, today(), now().toISOString());
    sweepOld(db, now());
    sweepPapers(folder, new Date());
  };
  sweep();
  // What a file of an earlier house did not keep yet.
  if (company) {
    valueStock(db, { day: today(), now: now().toISOString(), person: null });
    db.transaction(() => keepCommitments(db)).immediate();
    fillLineValues(db);
  }
  const seen = new Watch(now, (n) => n.what !== "fault" && log.warn(n, n.what));
  /** Something that runs by itself failed: it is in the log, and on the administrator's page. */
  const failed = (what: string) => (err: unknown) => {
    log.error({ err }, what);
    seen.failed("failed job", what, err);
  };
  /** The trail's chain is followed beside the server; what a person of today did is found within the hour. */
  const follow = () =>
    checkTrail(db, now()).then(
      (broken) => broken !== null && failed("the audit trail")(new Error(`It is broken at row ${broken}.`)),
      failed("following the audit trail"),
    );
  let following = follow();
  const sweeper = setInterval(() => {
    void patiently(sweep).catch(failed("sweeping"));
    following = following.then(follow);
  }, 3_600_000);
  const post = () => {
    try {
      postMail(db, join(folder, "outbox"));
    } catch (err) {
      if (!isBusy(err)) failed("writing the outbox")(err);
    }
  };
  let site = (process.env.WHARF_SITE ?? "").replace(/\/+$/, "");
  const setUpCode = process.env.WHARF_SETUP_CODE || newSetUpCode();
  // Read before anybody asks: the first page would hold up the house for it.
  const build = await import("virtual:react-router/server-build");
  const app = express();
  app.disable("x-powered-by");
  if (process.env.WHARF_HTTPS === "1") app.set("trust proxy", 1);

  app.use((req, res, next) => {
    res.locals.reference = randomBytes(4).toString("hex");
    res.locals.nonce = randomBytes(16).toString("base64");
    res.setHeader("X-Reference", res.locals.reference);
    Object.assign(req, { id: res.locals.reference });
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: [
            "'self'",
            "'wasm-unsafe-eval'", // what reads codes from the camera's picture
            (_req, res) => `'nonce-${(res as Response).locals.nonce /* set above, on the same response */}'`,
          ],
          styleSrc: ["'self'", "'unsafe-inline'"], // widths of bars and rows are style attributes
          imgSrc: ["'self'", "data:"],
          fontSrc: ["'self'"],
          workerSrc: ["'self'"],
          connectSrc: ["'self'"],
          manifestSrc: ["'self'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
          baseUri: ["'none'"],
        },
      },
      strictTransportSecurity: process.env.WHARF_HTTPS === "1",
      referrerPolicy: { policy: "same-origin" },
    }),
  );
  const running = new Running();
  app.use(running.counts);
  app.use((req, res, next) => {
    const begun = performance.now();
    const of = `${req.method} ${withoutLinks(req.originalUrl.split("?")[0]!)}`;
    // Taking a file in, or giving one out, lasts as long as its sender or reader takes.
    res.once("finish", () => {
      if (!req.is("multipart/form-data")) seen.answered(of, performance.now() - begun);
    });
    next();
  });
  app.use(withFile(whyNot, (says) => log.error(says)));
  app.get("/health", (_req, res) => {
    isAnswering(db);
    res.type("text").send("ok\n");
  });
  app.use(compression());
  const client = join(home(), "build/client");
  app.use("/assets", express.static(join(client, "assets"), { immutable: true, maxAge: "1y" }));
  app.use(express.static(client, { maxAge: "1h" }));
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: (r) => ({ method: r.method, url: withoutLinks(r.url), id: r.id }),
        res: (r) => ({ status: r.statusCode }),
      },
    }),
  );
  app.use(ownHost(process.env.WHARF_SITE ?? ""));
  app.use(sameOrigin);
  // A page answers with a page: what another program sends to its address as JSON goes to the one that answers in kind.
  app.post("/answers", (req, _res, next) => {
    if (req.is("json")) req.originalUrl = req.url = "/answers/send";
    next();
  });
  app.use(
    createRequestHandler({
      build,
      getLoadContext: (req, res) => {
        const context = new RouterContextProvider();
        context.set(house, {
          db,
          folder,
          demo,
          site,
          setUpCode,
          nonce: res.locals.nonce,
          reference: res.locals.reference,
          address: req.ip ?? "",
          log,
          post,
          watch: seen,
        });
        if (company === null && readCompany(db)) noteSetUp(file);
        return context;
      },
    }),
  );
  app.use((err: unknown, _req: Request, res: Response, _next: NextFunction) => {
    log.error({ err, reference: res.locals.reference }, "fault");
    seen.failed("fault", res.locals.reference, err);
    res.status(500).type("text").send(`Something went wrong on our side. Reference ${res.locals.reference}\n`);
  });

  // What an earlier run could not write to the outbox is written now and then again.
  post();
  const postman = setInterval(post, 30_000);
  postman.unref();

  // What suppliers' systems answer by files.
  const inbox = join(folder, "inbox");
  const take = () => {
    try {
      const { refused } = takeInbox(db, inbox, { now: now(), day: today(), clock: Date.now() });
      for (const { file, says } of refused) failed("the inbox")(new Error(`${file}: ${says}`));
    } catch (err) {
      failed("the inbox")(err);
    }
  };
  const porter = setInterval(() => {
    take();
    try {
      handToBank(db, join(folder, "bank"), now().toISOString());
    } catch (err) {
      failed("the files for the bank")(err);
    }
  }, 15_000);
  porter.unref();

  // In the demo, suppliers answer questions about their stock, and the orders that they get.
  const suppliers = demo ? openDemoSuppliers(db, folder, today) : null;
  suppliers?.catch(failed("the stand-in suppliers"));

  // Reminders, climbing and e-mails of what waits for signatures.
  let ticking = false;
  const tick = async () => {
    if (ticking) return;
    ticking = true;
    try {
      tickSignOff(db, now().toISOString(), today());
      if ((await mailSignOff(db, now().toISOString(), today(), site)) > 0) post();
    } catch (err) {
      if (!isBusy(err)) failed("the clock of sign-off")(err);
    } finally {
      ticking = false;
    }
  };
  // Letters to suppliers whose rule lets the clock send them, in the hours of a working day.
  let chasing = false;
  const chase = async () => {
    const at = now().toISOString();
    if (chasing || dueAt(at, 0) !== at) return;
    chasing = true;
    try {
      if ((await tickChase(db, at, today(), site)) > 0) post();
    } catch (err) {
      if (!isBusy(err)) failed("asking suppliers")(err);
    } finally {
      chasing = false;
    }
  };
  // What of suppliers' goods becomes ours by its age, and statements of periods that are over.
  const settleTheirs = () => {
    try {
      const at = now().toISOString();
      tickConsigned(db, at, today());
      endAgreements(db, at, today());
      tickStatements(db, at, today());
    } catch (err) {
      if (!isBusy(err)) failed("the clock of suppliers’ goods")(err);
    }
  };
  // Breakdowns that somebody has sent each week or month.
  const views = setInterval(() => {
    mailViews(db, { now: now().toISOString(), day: today(), site }, drawReport).then(
      (sent) => sent > 0 && post(),
      (err) => !isBusy(err) && failed("sending breakdowns")(err),
    );
  }, 300_000);
  views.unref();
  const theirs = setInterval(settleTheirs, 60_000);
  theirs.unref();
  const chaser = setInterval(chase, 600_000);
  chaser.unref();
  const clock = setInterval(tick, 20_000);
  clock.unref();

  // What was being printed, sent or placed when the server stopped goes on.
  for (const batch of openBatches(db)) void runBatch(batchHouse({ db, folder, log, post, watch: seen }), batch);

  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const s = app.listen(port, host, (e?: Error) => (e ? reject(e) : resolve(s)));
  });
  // Whoever sends slowly holds a connection for so long and no longer.
  server.headersTimeout = 20_000;
  // A connection that rests is kept for as long as a page is looked at: nobody asks on one that is just being closed.
  server.keepAliveTimeout = 65_000;
  server.requestTimeout = 120_000;
  /** Lets what is being answered and worked on come to its end, then closes the file. */
  const close = async () => {
    await suppliers?.then(
      (s) => s?.close(),
      () => {},
    );
    for (const timer of [postman, porter, chaser, views, clock, sweeper, first]) clearInterval(timer);
    seen.end();
    const closed = new Promise<void>((resolve) => server.close(() => resolve()));
    server.closeIdleConnections();
    await running.end(LONGEST_ANSWER);
    await Promise.race([
      Promise.all([batchesDone(), noLoading(), following]),
      wait(LONGEST_WORK, null, { ref: false }),
    ]);
    server.closeAllConnections();
    await closed;
    await dismissCrew();
    db.close();
  };
  const address = server.address();
  const listens = typeof address === "object" && address ? address.port : port;
  site ||= `http://localhost:${listens}`;
  // Whoever waits for the house to start does not wait for this.
  const first = setTimeout(() => {
    calendars();
    void tick();
  }, 200);
  // The first page takes long to draw, and holds up whoever asks meanwhile: so nobody's is the first.
  await fetch(`http://localhost:${listens}/sign-in`).then(
    (a) => a.text(),
    () => "",
  );
  return { port: listens, db, close, setUpCode: isFirstRun(db) ? setUpCode : null };
}
