import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { home } from "./db/migrate";

/** The sources of these folders without their tests, with what is written in each. */
export function sourcesOf(...folders: string[]): { file: string; text: string }[] {
  return folders.flatMap((folder) =>
    readdirSync(join(home(), folder), { recursive: true, encoding: "utf8" })
      .filter((file) => /\.tsx?$/.test(file) && !/\.test\.|testing/.test(file))
      .map((file) => ({ file: join(folder, file), text: readFileSync(join(home(), folder, file), "utf8") })),
  );
}
