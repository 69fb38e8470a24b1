import { redirect, useActionData, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { sql } from "../../../server/db/open";
import { dropRequisition, submitRequisition } from "../../../server/desk/requisitions/raise-requisition";
import { sendBack, sign } from "../../../server/desk/signoff/sign";
import { readRequisition } from "../../../server/read/requisitions/requisition";
import { readLadder, readTeam } from "../../../server/read/signoff";
import { act, idOf, notAllowed, notFound, page } from "../../web/page";
import { DraftRequisition } from "./draft";
import { RaisedRequisition } from "./raised";

export const loader = page("keep own inbox", ({ db, person, params }) => {
  const id = idOf(params.id);
  const sheet = readRequisition(db, id);
  if (!sheet) throw notFound("There is no such requisition, or its draft was thrown away.");
  const own = sheet.head.asker === person.id;
  const waiting = sheet.signatures.find((g) => g.state === "waiting");
  const signs =
    may(person.roles, "sign") && sheet.signatures.some((g) => readTeam(db, g.team).some((m) => m.id === person.id));
  if (!own && !(may(person.roles, "see all requisitions") && sheet.head.state !== "Draft") && !signs) {
    throw notAllowed("This requisition is somebody else’s.");
  }
  const maySign = signs && !own && waiting !== undefined && readTeam(db, waiting.team).some((m) => m.id === person.id);
  const stores = sql<{ id: number; name: string }>(db, "SELECT id, name FROM store ORDER BY id").all();
  const ladder = readLadder(db, "requisition");
  const rungs = (ladder?.rungs ?? []).map((r) => ({ upTo: r.upTo, team: r.team?.name ?? null }));
  return { sheet, own, maySign, stores, rungs };
});

export const action = act<unknown>("keep own inbox", (desk, input, { params }) => {
  const id = idOf(params.id);
  switch (input.do) {
    case "submit":
      return submitRequisition(desk, { ...input, requisition: id });
    case "drop": {
      const dropped = dropRequisition(desk, { ...input, requisition: id });
      if (dropped.ok) throw redirect("/requisitions");
      return dropped;
    }
    case "sign":
      return sign(desk, { ...input, paper: "requisition", id });
    case "send back":
      return sendBack(desk, { ...input, paper: "requisition", id });
    default:
      return { ok: false, problems: [{ field: "", says: "This cannot be done here." }] };
  }
});

export default function RequisitionPage() {
  const loaded = useLoaderData<typeof loader>();
  const answer = useActionData<typeof action>();
  const problems = answer && !answer.ok ? answer.problems : undefined;
  const { head } = loaded.sheet;
  return head.state === "Draft" && loaded.own ? (
    <DraftRequisition key={head.id} {...loaded} problems={problems} />
  ) : (
    <RaisedRequisition {...loaded} problems={problems} />
  );
}
