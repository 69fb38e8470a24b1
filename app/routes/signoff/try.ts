import { whoSigns } from "../../../server/queries/signoff/who-signs";
import { programAct } from "../../web/page";

/** Who would sign a paper, for other programs; nothing is kept of it. */
export const action = programAct("keep own inbox", (desk, input) => whoSigns(desk.db, desk.person, desk.day, input));

export const loader = () =>
  Response.json({ ok: false, problems: [{ field: "", says: "Ask by POST." }] }, { status: 405 });
