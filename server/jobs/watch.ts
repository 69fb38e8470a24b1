import { monitorEventLoopDelay } from "node:perf_hooks";

/** What somebody who runs the house should know of. */
export interface Noted {
  at: string;
  what: "slow request" | "failed job" | "fault" | "the house stood still";
  /** Which request or job, and what it said. */
  of: string;
  says: string;
  /** How long it took, in milliseconds; null where that says nothing. */
  ms: number | null;
}

export interface WatchReading {
  /** Since when it has been watched. */
  since: string;
  requests: number;
  /** Milliseconds within which half, and 99 of 100, of the last requests were answered. */
  half: number;
  most: number;
  /** How long anything had to wait for the house, in milliseconds: 99 of 100 times at most, and the longest. */
  lag: number;
  longestLag: number;
  /** The newest first. */
  noted: Noted[];
}

/** A request that takes longer is slow. */
const SLOW = 1_000;
/** A house that hears nothing for so long stood still. */
const STILL = 500;
/** So many are kept, and so many requests tell how fast the house is. */
const MOST_NOTED = 200;
const MOST_TIMES = 1_000;

/** Watches how the house runs, from its start on; what it sees is on the administrator's page, and in the log. */
export class Watch {
  private readonly since: string;
  private readonly noted: Noted[] = [];
  private readonly times: number[] = [];
  private requests = 0;
  private readonly delay = monitorEventLoopDelay({ resolution: 20 });
  private longest = 0;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly now: () => Date,
    /** Hears what is noted, for the log. */
    private readonly tell: (noted: Noted) => void = () => {},
  ) {
    this.since = now().toISOString();
    this.delay.enable();
    this.timer = setInterval(() => this.lookAtDelay(), 10_000);
    this.timer.unref();
  }

  /** A request was answered, a page or one of its files. What lasts as long as its sender takes is not told here. */
  answered(of: string, ms: number): void {
    this.requests++;
    this.times.push(ms);
    if (this.times.length > MOST_TIMES) this.times.shift();
    if (ms > SLOW) this.note({ what: "slow request", of, says: "", ms: Math.round(ms) });
  }

  /** Something that runs by itself, or a request, met a fault. */
  failed(what: "failed job" | "fault", of: string, err: unknown): void {
    this.note({ what, of, says: err instanceof Error ? err.message : String(err), ms: null });
  }

  read(): WatchReading {
    const sorted = [...this.times].sort((a, b) => a - b);
    const at = (share: number) =>
      Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0);
    return {
      since: this.since,
      requests: this.requests,
      half: at(0.5),
      most: at(0.99),
      lag: this.delay.count > 0 ? Math.round(this.delay.percentile(99) / 1e6) : 0,
      longestLag: Math.max(this.longest, Math.round(this.delay.max / 1e6) || 0),
      noted: [...this.noted].reverse(),
    };
  }

  end(): void {
    clearInterval(this.timer);
    this.delay.disable();
  }

  private lookAtDelay(): void {
    const longest = Math.round(this.delay.max / 1e6);
    if (longest > this.longest) this.longest = longest;
    if (longest > STILL)
      this.note({ what: "the house stood still", of: "", says: "nobody was answered meanwhile", ms: longest });
    this.delay.reset();
  }

  private note(n: Omit<Noted, "at">): void {
    const noted = { at: this.now().toISOString(), ...n };
    this.noted.push(noted);
    if (this.noted.length > MOST_NOTED) this.noted.shift();
    this.tell(noted);
  }
}
