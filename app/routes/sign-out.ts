import { type ActionFunctionArgs, redirect } from "react-router";
import { endSession } from "../../server/auth/sessions";
import { patiently } from "../../server/db/busy";
import { house, noCookie, now, tokenOf } from "../web/house";

export async function action({ request, context }: ActionFunctionArgs) {
  const { db } = context.get(house);
  const token = await tokenOf(request, db);
  if (token) await patiently(() => endSession(db, token, now()));
  return redirect("/sign-in", { headers: { "Set-Cookie": await noCookie(db) } });
}

export const loader = () => redirect("/today");
