import { spawn } from "node:child_process";
import { join } from "node:path";
import { createCookie } from "react-router";
import { secret, startSession } from "../server/auth/sessions";
import { openDatabase } from "../server/db/open";

/** Serves the built application on a folder, signed in as its first person, for as long as `use` takes. */
export async function served<T>(folder: string, use: (at: { url: string; cookie: string }) => Promise<T>): Promise<T> {
  const db = openDatabase(join(folder, "wharf-tally.db"));
  const jar = createCookie("wharf", { secrets: [secret(db, "cookie")] });
  const cookie = (await jar.serialize(startSession(db, 1, new Date("2026-11-24T09:00:00Z")))).split(";")[0]!;
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
  try {
    return await use({ url, cookie });
  } finally {
    server.kill("SIGTERM");
  }
}
