import { may } from "../../../core/people/roles";
import { aheadAsked, readAheadBeside } from "../../../server/queries/insight/ahead";
import { page } from "../../web/page";

/** What stands beside a row of what is still to come. */
export const loader = page("see insight", ({ db, url, day, person }) =>
  Response.json(
    readAheadBeside(
      db,
      aheadAsked(url.searchParams),
      (url.searchParams.get("key") ?? "").slice(0, 120),
      day,
      may(person.roles, "see payables"),
    ),
  ),
);
