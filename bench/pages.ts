import { spawn } from "node:child_process";
import { join } from "node:path";
import { createCookie } from "react-router";
import { openDatabase } from "../server/db/open";
import { secret, startSession } from "../server/people/sessions";

interface Measured {
  path: string;
  took: number;
  floor: number;
}

/** Server time of full pages against the empty page of the same server: the address that nothing stands at. */
export async function pageRatio(folder: string): Promise<Measured[]> {
  const db = openDatabase(join(folder, "wharf-tally.db"));
  const cookie = createCookie("wharf", { secrets: [secret(db, "cookie")] });
  const buyer = (await cookie.serialize(startSession(db, 1, new Date("2026-11-24T09:00:00Z")))).split(";")[0]!;
  db.close();
  const env = {
    ...process.env,
    NODE_ENV: "production",
    PORT: "0",
    WHARF_DATA: folder,
    WHARF_TODAY: "2026-11-24",
    WHARF_QUIET: "1",
  };
  const server = spawn(process.execPath, ["bin/serve.mjs"], { env, stdio: ["ignore", "pipe", "inherit"] });
  const url = await new Promise<string>((resolve, reject) => {
    server.once("exit", () => reject(new Error("the server did not start")));
    server.stdout.on("data", (chunk: Buffer) => {
      const found = /http:\/\/localhost:\d+/.exec(chunk.toString())?.[0];
      if (found) resolve(found);
    });
  });
  const median = async (path: string) => {
    const taken: number[] = [];
    for (let i = 0; i < 25; i++) {
      const from = performance.now();
      const answer = await fetch(url + path, { headers: { cookie: buyer } });
      await answer.text();
      if (i >= 5) taken.push(performance.now() - from);
    }
    return taken.sort((a, b) => a - b)[Math.floor(taken.length / 2)]!;
  };
  try {
    const floor = await median("/nothing-stands-here");
    const measured: Measured[] = [];
    for (const path of ["/needs", "/orders/2400", "/with-suppliers", "/today"])
      measured.push({ path, took: await median(path), floor });
    return measured;
  } finally {
    server.kill("SIGTERM");
  }
}
