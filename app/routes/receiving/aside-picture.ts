import { refuse } from "../../../server/acts/desk";
import { addAsidePicture } from "../../../server/acts/receiving/aside-picture";
import { asidePictureOf } from "../../../server/queries/kept-files";
import { whereAside } from "../../../server/queries/receiving/set-aside";
import { atOf, idOf, kept, notAllowed, notFound, page } from "../../web/page";
import { Upload } from "../../web/sent";

/** A picture of goods set aside, shown in the page. */
export const loader = page("see dock", ({ db, person, params, url }) => {
  const id = idOf(params.id);
  const picture = asidePictureOf(db, id, atOf(url, "picture") ?? 0);
  if (!picture) throw notFound("There is no such picture.");
  const store = whereAside(db, id);
  if (person.store !== null && store !== person.store) throw notAllowed("These goods lie in another store.");
  return new Response(new Uint8Array(picture.bytes), {
    headers: {
      "Content-Type": picture.type,
      "Cache-Control": "private, max-age=86400",
      "X-Content-Type-Options": "nosniff",
    },
  });
});

/** Keeps one. */
export const action = kept("picture goods", (desk, input, { params }) =>
  input.file instanceof Upload
    ? addAsidePicture(desk, { aside: idOf(params.id) }, input.file)
    : refuse("file", "Choose a picture."),
);
