import { findAll, findItems } from "../../server/queries/find";
import { page } from "../web/page";

export const loader = page("see items", ({ db, person, url }) => {
  const text = (url.searchParams.get("text") ?? "").trim().slice(0, 80);
  if (text.length < 2) return Response.json([]);
  return Response.json(url.searchParams.get("among") === "items" ? findItems(db, text) : findAll(db, person, text));
});
