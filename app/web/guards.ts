import type { NextFunction, Request, Response } from "express";
import { MOST_SENT } from "./sent";

/** Names under which a machine reaches itself. */
const LOOPBACK = /^(localhost|127(\.\d+){3}|\[::1\])(:\d+)?$/i;

/**
 * The house answers under the name that its settings say (`WHARF_SITE`), and on the machine itself. Any other name in a
 * request would stand in links that go out.
 */
export function ownHost(site: string) {
  const ours = site ? new URL(site).host : null;
  return (req: Request, res: Response, next: NextFunction): void => {
    const host = req.headers.host ?? "";
    if (host.toLowerCase() === ours || LOOPBACK.test(host)) next();
    else
      res.status(421).type("text").send("Wharf Tally is not reached by this name. WHARF_SITE says which one it has.\n");
  };
}

/** Refuses everything while the company's file is not there: what was written would be lost. */
export function withFile(why: () => string | null, onFault: (why: string) => void) {
  let said = false;
  return (_req: Request, res: Response, next: NextFunction): void => {
    const fault = why();
    if (fault === null) {
      next();
      return;
    }
    if (!said) onFault(fault);
    said = true;
    res.status(503).type("text").send(`${fault}\n`);
  };
}

/** A post must come from our own pages: the browser names where it comes from, and that must be us. */
export function sameOrigin(req: Request, res: Response, next: NextFunction): void {
  if (req.method === "GET" || req.method === "HEAD") {
    next();
    return;
  }
  if (Number(req.headers["content-length"] ?? 0) > MOST_SENT) {
    res.status(413).type("text").send("This is larger than 25 MB.\n");
    return;
  }
  // Another program names itself by a token, which no foreign page can send; cookies count for nothing then.
  const forPrograms = req.path.startsWith("/exchange/") || ["/sign-off/try", "/answers"].includes(req.path);
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

/** An address as the log may hold it: what opens something by itself is left out, wherever it stands. */
export const withoutLinks = (url: string): string =>
  url.replace(/((?:^|\/|%2F)(?:quote|order|arrivals|sign-off(?:\/|%2F)link)(?:\/|%2F))[^/?&.%]+/gi, "$1…");
