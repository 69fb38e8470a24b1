import { redirect, useActionData, useLoaderData } from "react-router";
import { may } from "../../../core/people/roles";
import { refuse } from "../../../server/acts/desk";
import { attachFile, detachFile } from "../../../server/acts/requisitions/attach-file";
import { copyRequisition } from "../../../server/acts/requisitions/copy-requisition";
import { decideLine, declineLine } from "../../../server/acts/requisitions/decide-line";
import { returnRequisition, withdrawRequisition } from "../../../server/acts/requisitions/end-requisition";
import { dropRequisition, submitRequisition } from "../../../server/acts/requisitions/raise-requisition";
import { budgetsOfRequisition } from "../../../server/queries/budgets/budgets";
import {
  accountChoices,
  colleagueChoices,
  departmentChoices,
  openBudgetChoices,
  storeChoices,
} from "../../../server/queries/choices";
import { readAlternatives } from "../../../server/queries/needs/slip";
import { readRequisition } from "../../../server/queries/requisitions/requisition";
import { sightOf, withoutMoney } from "../../../server/queries/requisitions/sight";
import { routeRequisition } from "../../../server/queries/signoff/route";
import { signerChoices } from "../../../server/queries/signoff/staff";
import { mayActOn } from "../../../server/queries/signoff/waiting";
import { act, idOf, notAllowed, notFound, page } from "../../web/page";
import { Upload } from "../../web/sent";
import { actOnSigning } from "../signoff/acts";
import { DraftRequisition } from "./draft";
import { RaisedRequisition } from "./raised";

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
    accounts: accountChoices(db),
    onBudgets: sight === "whole" ? budgetsOfRequisition(db, id, day) : [],
    budgets: openBudgetChoices(db, day),
    people: own ? colleagueChoices(db, person.id) : [],
    alternatives: Object.fromEntries(
      may(person.roles, "plan") && sheet.head.state !== "Draft"
        ? sheet.lines.filter((l) => l.item !== null).map((l) => [l.id, readAlternatives(db, l.item!)])
        : [],
    ) as Record<number, { item: number; name: string }[]>,
  };
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
    case "withdraw":
      return withdrawRequisition(desk, { reason: "", ...input, requisition: id });
    case "copy": {
      const copied = copyRequisition(desk, { requisition: id });
      if (copied.ok) throw redirect(`/requisitions/${copied.value.requisition}`);
      return copied;
    }
    case "return":
      return returnRequisition(desk, { ...input, requisition: id });
    case "decide":
      return decideLine(desk, { quantity: "", offered: "", ...input });
    case "decline":
      return declineLine(desk, input);
    case "attach": {
      const { file } = input;
      if (!(file instanceof Upload)) return refuse("file", "Choose a file.");
      return attachFile(desk, id, file.name, file.bytes);
    }
    case "detach":
      return detachFile(desk, input);
    default:
      return actOnSigning(desk, { ...input, paper: "requisition", id });
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
