import { z } from "zod";
import { plainText } from "../../../core/text";
import { madeId, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";
import { pictureType } from "../papers/keep-papers";
import { ownStore } from "../stock/bins";

const MOST_BYTES = 2_000_000;
const MOST = 12;

/** Keeps a picture of goods set aside, as evidence: a PNG or JPEG that can be read to its end. */
export function addAsidePicture(
  desk: Desk,
  raw: unknown,
  file: { name: string; bytes: Uint8Array<ArrayBuffer> },
): Done<{ picture: number }> {
  const input = checked(z.object({ aside: Id }), raw);
  if (!input.ok) return input;
  const { aside } = input.value;
  return once(desk, "picture goods", (tx) => {
    const of = sql<{ store: number; pictures: number }>(
      tx.db,
      `SELECT r.store, (SELECT count(*) FROM set_aside_picture p WHERE p.set_aside = a.id) AS pictures
       FROM set_aside a JOIN receipt r ON r.id = a.receipt WHERE a.id = ?`,
    ).get(aside);
    if (!of) return refuse("", "There are no such goods set aside.");
    const own = ownStore(desk, tx.db, of.store);
    if (!own.ok) return own;
    if (of.pictures >= MOST) return refuse("file", `At most ${MOST} pictures of the same goods.`);
    if (file.bytes.length > MOST_BYTES) return refuse("file", "This picture is larger than 2 MB.");
    const type = pictureType(file.bytes);
    if (!type) return refuse("file", "This is no picture that can be shown: a PNG or JPEG of at most 4 million dots.");
    const picture = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO set_aside_picture (set_aside, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)",
        ).run(
          aside,
          plainText(file.name).slice(0, 80) || "picture",
          type,
          Buffer.from(file.bytes),
          desk.person.id,
          desk.now,
        ),
      ),
    );
    tx.record("aside.pictured", `set aside ${aside}`, {
      picture,
      name: file.name.slice(0, 80),
      bytes: file.bytes.length,
    });
    return done({ picture });
  });
}
