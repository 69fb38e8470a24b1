import { randomBytes } from "node:crypto";
import { dirname, join } from "node:path";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type NextFunction, type Request, type Response } from "express";
import helmet from "helmet";
import { pino } from "pino";
import { pinoHttp } from "pino-http";
import { RouterContextProvider } from "react-router";
import { brokenLink } from "../../server/db/audit";
import { home } from "../../server/db/migrate";
import { openDatabase } from "../../server/db/open";
import { sweepMarks } from "../../server/desk/marks/marks";
import { runBatch, sweepPapers } from "../../server/papers/run-batch";
import { readCompany } from "../../server/read/company";
import { openBatches } from "../../server/read/papers/batches";
import { tickSignOff } from "../../server/signoff/clock";
import { mailSignOff } from "../../server/signoff/mail";
import { postMail } from "../../server/standins/post-office";
import { batchHouse, house, now, setClock, today } from "./house";

const MOST_BYTES = 25_000_000;

export interface Serving {
  /** The company's file. */
  file: string;
  port: number;
  /** Loopback by default; a real installation stands behind its own TLS proxy. */
  host?: string;
  demo?: boolean;
  quiet?: boolean;
}

/** Opens the file and serves the application. Resolves once it listens. */
export async function serve({ file, port, host = "127.0.0.1", demo = false, quiet = false }: Serving) {
  const db = openDatabase(file);
  setClock(readCompany(db)?.timeZone ?? "");
  const folder = dirname(file);
  const log = pino({ level: quiet ? "error" : "info" });
  const broken = brokenLink(db);
  if (broken !== null) log.error({ row: broken }, "the audit trail is broken at this row");
  // What only time brings is looked at when the house opens, and every hour.
  const sweep = () => {
    sweepMarks(db, today(), now().toISOString());
    sweepPapers(folder, new Date());
  };
  sweep();
  setInterval(sweep, 3_600_000).unref();
  const app = express();
  app.disable("x-powered-by");
  if (process.env.WHARF_HTTPS === "1") app.set("trust proxy", 1);

  app.use((req, res, next) => {
    res.locals.reference = randomBytes(4).toString("hex");
    res.locals.nonce = randomBytes(16).toString("base64");
    res.setHeader("X-Reference", res.locals.reference);
    (req as Request & { id?: string }).id = res.locals.reference;
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'", (_req, res) => `'nonce-${(res as Response).locals.nonce}'`],
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
  app.get("/health", (_req, res) => {
    db.prepare("SELECT 1").get();
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
        req: (r) => ({ method: r.method, url: r.url.replace(/^\/(quote|order)\/[^/?.]+/, "/$1/…"), id: r.id }),
        res: (r) => ({ status: r.statusCode }),
      },
    }),
  );
  app.use(sameOrigin);
  app.use(
    createRequestHandler({
      build: () => import("virtual:react-router/server-build"),
      getLoadContext: (req, res) => {
        const context = new RouterContextProvider();
        context.set(house, {
          db,
          folder,
          demo,
          nonce: res.locals.nonce,
          reference: res.locals.reference,
          address: req.ip ?? "",
          log,
        });
        return context;
      },
    }),
  );
  app.use((err: unknown, _req: Request, res: Response, _next: NextFunction) => {
    log.error({ err, reference: res.locals.reference }, "fault");
    res.status(500).type("text").send(`Something went wrong on our side. Reference ${res.locals.reference}\n`);
  });

  // What an earlier run could not write to the outbox is written now and then again.
  const post = () => {
    try {
      postMail(db, join(folder, "outbox"));
    } catch (err) {
      log.error({ err }, "the outbox could not be written");
    }
  };
  post();
  const postman = setInterval(post, 30_000);
  postman.unref();

  // Reminders, climbing and e-mails of what waits for signatures.
  let site = process.env.WHARF_SITE ?? "";
  let ticking = false;
  const tick = async () => {
    if (ticking) return;
    ticking = true;
    try {
      tickSignOff(db, now().toISOString(), today());
      if ((await mailSignOff(db, now().toISOString(), today(), site)) > 0) post();
    } catch (err) {
      log.error({ err }, "the clock of sign-off met a fault");
    } finally {
      ticking = false;
    }
  };
  const clock = setInterval(tick, 20_000);
  clock.unref();

  // What was being printed, sent or placed when the server stopped goes on.
  for (const batch of openBatches(db)) void runBatch(batchHouse({ db, folder, log }), batch);

  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const s = app.listen(port, host, (e?: Error) => (e ? reject(e) : resolve(s)));
  });
  const close = () =>
    new Promise<void>((resolve) => {
      clearInterval(postman);
      clearInterval(clock);
      server.close(() => {
        db.close();
        resolve();
      });
      server.closeAllConnections();
    });
  const address = server.address();
  const listens = typeof address === "object" && address ? address.port : port;
  site ||= `http://localhost:${listens}`;
  void tick();
  return { port: listens, db, close };
}

/** A post must come from our own pages: the browser names where it comes from, and that must be us. */
function sameOrigin(req: Request, res: Response, next: NextFunction): void {
  if (req.method === "GET" || req.method === "HEAD") {
    next();
    return;
  }
  if (Number(req.headers["content-length"] ?? 0) > MOST_BYTES) {
    res.status(413).type("text").send("This is larger than 25 MB.\n");
    return;
  }
  // Another program names itself by a token, which no foreign page can send; cookies count for nothing then.
  const forPrograms = req.path.startsWith("/exchange/") || req.path === "/sign-off/try";
  if (forPrograms && /^Bearer\s/i.test(req.headers.authorization ?? "")) {
    next();
    return;
  }
  const { origin, host } = req.headers;
  const site = req.headers["sec-fetch-site"];
  const ours = origin !== undefined && URL.canParse(origin) && new URL(origin).host === host;
  if (!ours || (site !== undefined && site !== "same-origin")) {
    res.status(403).type("text").send("This did not come from a page of Wharf Tally.\n");
    return;
  }
  next();
}
