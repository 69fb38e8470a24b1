import { useActionData, useLoaderData } from "react-router";
import type { ItemId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { budgetsOfRequisition } from "../../../server/queries/budgets/budgets";
import {
  accountChoices,
  colleagueChoices,
  departmentChoices,
  openBudgetChoices,
  storeChoices,
} from "../../../server/queries/choices";
import { readAlternatives } from "../../../server/queries/needs/slip";
import { papersAroundRequisition } from "../../../server/queries/papers/around";
import { readRequisition } from "../../../server/queries/requisitions/requisition";
import { sightOf, withoutMoney } from "../../../server/queries/requisitions/sight";
import { routeRequisition } from "../../../server/queries/signoff/route";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { mayActOn } from "../../../server/queries/signoff/waiting";
import { chancesOfAsked } from "../../../server/queries/suppliers/wait-chances";
import { actions, idOf, notAllowed, notFound, page } from "../../web/page";
import { DraftRequisition } from "./draft";
import { RaisedRequisition } from "./raised";
import { requisitionActs } from "./requisition-acts";

export const loader = page("keep own inbox", ({ db, person, params, day }) => {
  const id = idOf(params.id);
  const sheet = readRequisition(db, id);
  if (!sheet) throw notFound("There is no such requisition, or its draft was thrown away.");
  const own = sheet.head.asker === person.id;
  const sight = sightOf(db, sheet, person, day);
  if (sight === null) throw notAllowed("This requisition is somebody else’s.");
  const others = signerChoices(db, day, [person.id, sheet.head.asker]);
  const stores = storeChoices(db);
  const drafting = own && sheet.head.state === "Draft";
  const { way } = drafting ? routeRequisition(db, id, sheet.about ?? 0, day) : { way: null };
  return {
    sheet: sight === "whole" ? sheet : withoutMoney(sheet),
    own,
    maySign: mayActOn(db, "requisition", id, person, day) ? others : null,
    stores,
    departments: departmentChoices(db),
    needed: way && (way.ok ? { who: way.seats.map((s) => s.name), sum: way.sum } : way),
    opensLadders: may(person.roles, "see ladders"),
    mayPlan: may(person.roles, "plan"),
    mayAsk: may(person.roles, "ask"),
    seesOrders: may(person.roles, "see orders"),
    chances: chancesOfAsked(db, id, sheet.head.neededBy, day, may(person.roles, "see orders")),
    around: may(person.roles, "see orders") ? papersAroundRequisition(db, id) : [],
    accounts: accountChoices(db),
    onBudgets: sight === "whole" ? budgetsOfRequisition(db, id, day) : [],
    budgets: openBudgetChoices(db, day),
    people: own ? colleagueChoices(db, person.id) : [],
    alternatives: Object.fromEntries(
      may(person.roles, "plan") && sheet.head.state !== "Draft"
        ? sheet.lines.filter((l) => l.item !== null).map((l) => [l.id, readAlternatives(db, l.item!)])
        : [],
    ) as Record<number, { item: ItemId; name: string }[]>, // by the line
  };
});

export const action = actions("keep own inbox", requisitionActs, ({ params }) => {
  const id = idOf(params.id);
  return { requisition: id, paper: "requisition", id };
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
