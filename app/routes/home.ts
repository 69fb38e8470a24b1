import type { LoaderFunctionArgs } from "react-router";
import { redirect } from "react-router";
import { isFirstRun } from "../../server/auth/first-run";
import { house } from "../web/house";

export const loader = ({ context }: LoaderFunctionArgs) =>
  redirect(isFirstRun(context.get(house).db) ? "/first-run" : "/today");
