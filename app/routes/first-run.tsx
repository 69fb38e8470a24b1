import { type ActionFunctionArgs, data, Form, type LoaderFunctionArgs, redirect, useActionData } from "react-router";
import { firstRun, isFirstRun } from "../../server/auth/first-run";
import { startSession } from "../../server/auth/sessions";
import { patiently } from "../../server/db/busy";
import { Button } from "../ui/button";
import { Problems, problemAt, TextField } from "../ui/field";
import { TallyMark } from "../ui/mark";
import { useBusy } from "../ui/use-busy";
import { house, now, sessionCookie } from "../web/house";
import { notFound } from "../web/page";
import { strangersAct } from "../web/strangers";

/** Once the house is set up there is nothing here. */
export function loader({ context }: LoaderFunctionArgs) {
  if (!isFirstRun(context.get(house).db)) throw notFound("There is no such page.");
  return null;
}

const setUp = strangersAct(async ({ context }, input) => {
  const { db, setUpCode } = context.get(house);
  const answer = await patiently(() => firstRun(db, input, setUpCode, now()));
  if (!answer.ok) return data(answer.problems, { status: 422 });
  const token = startSession(db, answer.value.person, now());
  return redirect("/today", { headers: { "Set-Cookie": await sessionCookie(db, token) } });
});

export async function action(args: ActionFunctionArgs) {
  loader(args);
  return setUp(args);
}

export default function FirstRunPage() {
  const problems = useActionData<typeof action>();
  const busy = useBusy();
  const at = (field: string) => problemAt(problems, field);
  return (
    <main className="flex min-h-screen flex-col bg-paper">
      <title>First run · Wharf Tally</title>
      <div className="flex h-[52px] items-center gap-2.5 bg-mast px-4 text-[#f2f4ee]">
        <TallyMark />
        <span className="font-display text-base font-bold">Wharf Tally</span>
      </div>
      <Form method="post" className="mx-auto flex w-full max-w-md flex-col gap-4 px-6 py-10">
        <h1 className="text-xl font-bold">Set up your company</h1>
        <p className="text-ink-2">This happens once. You become the administrator, and add the others under People.</p>
        <TextField
          label="Code"
          name="code"
          autoComplete="off"
          problem={at("code")}
          hint="the server printed it when it started"
        />
        <TextField label="Company" name="company" problem={at("company")} />
        <div className="grid grid-cols-2 gap-4">
          <TextField
            label="Home currency"
            name="currency"
            defaultValue="EUR"
            maxLength={3}
            problem={at("currency")}
            hint="three letters; it stays"
          />
          <TextField label="First store" name="store" problem={at("store")} hint="where goods arrive" />
        </div>
        <TextField label="Your name" name="name" autoComplete="name" problem={at("name")} />
        <TextField label="Name you sign in with" name="login" autoComplete="username" problem={at("login")} />
        <TextField
          label="Password"
          name="password"
          type="password"
          autoComplete="new-password"
          problem={at("password")}
          hint="at least 10 characters"
        />
        <Problems problems={problems} />
        <div>
          <Button type="submit" look="main" disabled={busy}>
            Set up and sign in
          </Button>
        </div>
      </Form>
    </main>
  );
}
