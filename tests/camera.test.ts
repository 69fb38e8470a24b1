import { writeFileSync } from "node:fs";
import { join } from "node:path";
import bwip from "bwip-js/node";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, expect, it } from "vitest";
import { launch } from "./browser";
import { type House, openHouse, ready } from "./house";

let house: House;
let browser: Browser;
beforeAll(async () => {
  house = await openHouse();
  const film = join(house.folder, "film.y4m");
  writeFileSync(film, filmOf("(01)04006381333931(17)280131(10)A7"));
  browser = await launch([
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
    `--use-file-for-fake-video-capture=${film}`,
  ]);
});
afterAll(async () => {
  await browser.close();
  await house.close();
});

/** A film of a GS1 matrix, held still before the camera: YUV4MPEG2, grey. */
function filmOf(text: string): Buffer {
  const [width, height, dot] = [640, 480, 12];
  const [code] = bwip.raw({ bcid: "gs1datamatrix", text }) as { pixs: number[]; pixx: number; pixy: number }[]; // it is a matrix
  const { pixs, pixx, pixy } = code!;
  const picture = Buffer.alloc(width * height, 235);
  const [left, top] = [(width - pixx * dot) >> 1, (height - pixy * dot) >> 1];
  for (let y = 0; y < pixy * dot; y++)
    for (let x = 0; x < pixx * dot; x++)
      if (pixs[Math.floor(y / dot) * pixx + Math.floor(x / dot)]) picture[(top + y) * width + left + x] = 16;
  const grey = Buffer.alloc((width * height) / 2, 128);
  const frame = Buffer.concat([Buffer.from("FRAME\n"), picture, grey]);
  return Buffer.concat([Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip A1:1 C420jpeg\n`), frame, frame, frame]);
}

it("the camera of a phone is the scanner: a code with its lot and last day counts", async () => {
  const context = await browser.newContext({ locale: "en-GB", viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  await page.goto(`${house.url}/sign-in`);
  await page.getByRole("button", { name: /^Tobias/ }).click();
  await page.waitForURL(`${house.url}/today`);
  await page.goto(`${house.url}/open-count`);
  await ready(page);
  await page.getByRole("button", { name: "Scan by camera" }).click();
  const seen = page.getByRole("dialog", { name: "Scan by camera" });
  await seen.getByText("Read: (01)04006381333931(17)280131(10)A7").waitFor();
  await page
    .getByText(/4006381333931/)
    .first()
    .waitFor();
  await page.keyboard.press("Escape");
  await seen.waitFor({ state: "detached" });
  expect(await page.getByRole("button", { name: "Scan by camera" }).getAttribute("aria-pressed")).toBe("false");
});
