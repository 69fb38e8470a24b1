import { PNG } from "pngjs";
import { afterEach, beforeEach, expect, it } from "vitest";
import { sql } from "../../db/open";
import { picturesOfAsides } from "../../queries/receiving/set-aside";
import { must, type TestHouse, testHouse } from "../../testing";
import { says } from "../stock/testing";
import { addAsidePicture } from "./aside-picture";
import { countIn, placedOrder } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const picture = () => new Uint8Array(PNG.sync.write(new PNG({ width: 4, height: 4 })));

it("a picture of goods set aside is kept where it is one, of their own store, up to twelve", async () => {
  const { order, lines } = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "20", price: "30" }]);
  must(countIn(h, order, [{ line: lines[0], counted: "18", faulty: "2", fault: "damaged" }]));
  const aside = sql<{ id: number }>(h.db, "SELECT id FROM set_aside").get()!.id;
  const add = (bytes: Uint8Array<ArrayBuffer>, who = "tobias", of: number = aside) =>
    addAsidePicture(h.desk(who), { aside: of }, { name: "dent\u0000.png", bytes });
  expect(says(add(new TextEncoder().encode("no picture")))).toMatch(/^This is no picture that can be shown/);
  const cut = picture().slice(0, 40);
  expect(says(add(cut))).toMatch(/^This is no picture/);
  expect(says(add(new Uint8Array(2_000_001)))).toBe("This picture is larger than 2 MB.");
  expect(says(add(picture(), "joss"))).toBe("Your role does not allow this.");
  expect(says(add(picture(), "tobias", 99))).toBe("There are no such goods set aside.");
  for (let i = 0; i < 12; i++) must(add(picture()));
  expect(says(add(picture()))).toBe("At most 12 pictures of the same goods.");
  expect(picturesOfAsides(h.db, [aside]).get(aside)).toHaveLength(12);
  expect(picturesOfAsides(h.db, [aside]).get(aside)![0]!.name).toBe("dent.png");
  sql(h.db, "UPDATE person SET store = ? WHERE login = 'tobias'").run(h.id("store", "HS"));
  expect(says(add(picture()))).toBe("This is at Tarn Quay, not in your store.");
});
