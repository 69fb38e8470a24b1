import { copyFileSync, existsSync, mkdtempSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, expect, it } from "vitest";
import { noteSetUp, openCompany, openToRead, UnfitFile, unfit, watch } from "./company-file";

let folder: string;
let file: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "wharf-file-"));
  file = join(folder, "wharf-tally.db");
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const made = () => openCompany(file).close();

it("is made where nothing tells of one, and not where one is gone", () => {
  expect(unfit(file)).toBeNull();
  made();
  noteSetUp(file);
  for (const end of ["", "-wal", "-shm"]) rmSync(file + end, { force: true });
  expect(unfit(file)).toMatch(/is gone, though wharf-tally.set-up says that there was one/);
  expect(() => openCompany(file)).toThrow(UnfitFile);
  expect(existsSync(file)).toBe(false);
});

it("is refused where it is empty, no such file, or of a newer house", () => {
  writeFileSync(file, "");
  expect(unfit(file)).toMatch(/is empty/);
  writeFileSync(file, "code,name\nA,B\n");
  expect(unfit(file)).toMatch(/is no company's file/);
  rmSync(file);
  const other = new Database(file);
  other.exec("CREATE TABLE something (x)");
  other.close();
  expect(unfit(file)).toMatch(/is no company's file/);
  rmSync(file);
  made();
  const db = new Database(file);
  db.prepare("INSERT INTO migration (name, hash) VALUES ('999-later.sql', 'x')").run();
  db.close();
  expect(unfit(file)).toMatch(/written by a newer Wharf Tally \(999-later.sql/);
});

it("is only read by what only looks: never made, never brought up", () => {
  expect(() => openToRead(file)).toThrow(`There is no file ${file}.`);
  expect(existsSync(file)).toBe(false);
  made();
  const db = new Database(file);
  db.prepare("DELETE FROM migration WHERE name LIKE '016%'").run();
  db.close();
  expect(() => openToRead(file)).toThrow(/written by an older Wharf Tally/);
  const still = new Database(file, { readonly: true });
  expect(still.prepare("SELECT count(*) FROM migration WHERE name LIKE '016%'").pluck().get()).toBe(0);
  still.close();
});

it("is noticed when it is deleted or replaced under a running house", () => {
  made();
  const why = watch(file);
  expect(why()).toBeNull();
  copyFileSync(file, `${file}.copy`);
  rmSync(file);
  expect(why()).toMatch(/was deleted while the server runs/);
  renameSync(`${file}.copy`, file);
  expect(why()).toMatch(/was replaced while the server runs/);
});
