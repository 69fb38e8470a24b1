import { join } from "node:path";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import { home } from "../db/migrate";
import type { JobName, Jobs, Said, Task } from "./jobs";

let crew: Piscina | null = null;

/** The workers run the bundle where we are one, else the source. */
function theCrew(): Piscina {
  const bundled = import.meta.url.includes("/build/server/");
  crew ??= new Piscina({
    filename: join(home(), bundled ? "build/server/worker.js" : "server/jobs/worker.ts"),
    execArgv: bundled ? [] : ["--import", "tsx"],
    maxThreads: 2,
    // A file that needs more ends its worker, and not the server.
    resourceLimits: { maxOldGenerationSizeMb: 1536 },
    idleTimeout: 60_000,
  });
  return crew;
}

interface Listening<J extends JobName> {
  onPart?: (part: Jobs[J]["part"]) => void;
  onDone?: (done: number) => void;
  signal?: AbortSignal;
}

/**
 * Runs a job in a worker thread. Parts arrive as they are ready, so that taking them in never holds up the server for
 * long. Rejects where the worker fails or is stopped by the signal.
 */
export async function inWorker<J extends JobName>(
  job: J,
  input: Jobs[J]["input"],
  { onPart, onDone, signal }: Listening<J> = {},
): Promise<Jobs[J]["output"]> {
  const { port1, port2 } = new MessageChannel();
  port1.on("message", (said: Said<J>) => {
    if ("part" in said) onPart?.(said.part);
    else onDone?.(said.done);
  });
  port1.unref();
  try {
    const task: Task<J> = { job, input, port: port2 };
    const output = (await theCrew().run(task, { transferList: [port2], signal })) as Jobs[J]["output"]; // what the worker of this job returns
    // What was said before the answer may still wait in the port.
    await new Promise((done) => setImmediate(done));
    return output;
  } finally {
    port1.close();
  }
}

/** Ends the worker threads; the next job starts new ones. */
export async function dismissCrew(): Promise<void> {
  const last = crew;
  crew = null;
  await last?.destroy();
}
