import type { NextFunction, Request, Response } from "express";

/** Requests that are being answered, so that stopping can wait for them. */
export class Running {
  private count = 0;
  private waiting: (() => void)[] = [];
  private stopping = false;

  readonly counts = (_req: Request, res: Response, next: NextFunction): void => {
    this.count++;
    if (this.stopping) res.setHeader("Connection", "close");
    res.once("close", () => {
      if (--this.count === 0) for (const go of this.waiting.splice(0)) go();
    });
    next();
  };

  /** Resolves once nothing is being answered, or after so many milliseconds. */
  end(most: number): Promise<void> {
    this.stopping = true;
    if (this.count === 0) return Promise.resolve();
    return new Promise((resolve) => {
      const timer = setTimeout(resolve, most);
      this.waiting.push(() => {
        clearTimeout(timer);
        resolve();
      });
    });
  }
}
