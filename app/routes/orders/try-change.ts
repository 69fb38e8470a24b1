import { tryChange } from "../../../server/acts/orders/change-placed";
import { idOf, page } from "../../web/page";
import { changeOf } from "./heard";

/** What a change of a placed order would do, before anybody asks for it. */
export const loader = page("write orders", ({ db, params, url, day, hour }) =>
  Response.json(
    tryChange(db, { order: idOf(params.id), ...changeOf(Object.fromEntries(url.searchParams)) }, { day, hour }),
  ),
);
