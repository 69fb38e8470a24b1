import { type ActionFunctionArgs, redirect } from "react-router";
import { endSession } from "../../server/people/sessions";
import { house, noCookie, tokenOf } from "../web/house";

export async function action({ request, context }: ActionFunctionArgs) {
  const { db } = context.get(house);
  const token = await tokenOf(request, db);
  if (token) endSession(db, token);
  return redirect("/sign-in", { headers: { "Set-Cookie": await noCookie(db) } });
}

export const loader = () => redirect("/today");
