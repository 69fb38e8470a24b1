import { useEffect } from "react";
import { data, Form, type LoaderFunctionArgs, redirect, useActionData, useLoaderData } from "react-router";
import { isFirstRun } from "../../server/auth/first-run";
import { signIn, signInAs } from "../../server/auth/sign-in";
import { patiently } from "../../server/db/busy";
import { demoPeople } from "../../server/queries/choices";
import { readCompany } from "../../server/queries/company";
import { Button } from "../ui/button";
import { Problems, problemAt, TextField } from "../ui/field";
import { TallyMark } from "../ui/mark";
import { useBusy } from "../ui/use-busy";
import { deviceCookie, deviceOf, house, now, sessionCookie } from "../web/house";
import { strangersAct } from "../web/strangers";

export function loader({ context }: LoaderFunctionArgs) {
  const { db, demo } = context.get(house);
  if (isFirstRun(db)) throw redirect("/first-run");
  const people = demo ? demoPeople(db) : [];
  return { demo, people, company: readCompany(db)?.name ?? "" };
}

/** Only addresses of our own are gone to after signing in, read as a browser reads them. */
function ours(to: string | null): string {
  const here = "http://here.invalid";
  if (!to?.startsWith("/") || to.length > 2_000 || !URL.canParse(to, here)) return "/today";
  const { origin, pathname, search } = new URL(to, here);
  return origin === here && !pathname.startsWith("//") ? pathname + search : "/today";
}

export const action = strangersAct(async ({ request, context }, input) => {
  const { db, demo, address } = context.get(house);
  const device = await deviceOf(request, db);
  const answer = await patiently(() =>
    demo && typeof input.as === "string"
      ? signInAs(db, Number(input.as), now())
      : signIn(db, input, { address, device }, now()),
  );
  if (!answer.ok) return data(answer.problems, { status: 422 });
  const { token, login } = answer.value;
  const headers = new Headers();
  headers.append("Set-Cookie", await sessionCookie(db, token));
  headers.append("Set-Cookie", await deviceCookie(db, device, login));
  return redirect(ours(new URL(request.url).searchParams.get("to")), { headers });
});

export default function SignIn() {
  const { demo, people, company } = useLoaderData<typeof loader>();
  const problems = useActionData<typeof action>();
  const busy = useBusy();
  // Whoever was signed in here has gone: the pages that this device keeps of theirs go, too. What waits to be sent stays.
  useEffect(() => navigator.serviceWorker?.controller?.postMessage({ forget: true }), []);
  return (
    <main className="flex min-h-screen flex-col bg-paper">
      <title>Sign in · Wharf Tally</title>
      <div className="flex h-[52px] items-center gap-2.5 bg-mast px-4 text-[#f2f4ee]">
        <TallyMark />
        <span className="font-display text-base font-bold">Wharf Tally</span>
      </div>
      <div className="mx-auto w-full max-w-2xl px-6 py-12">
        <h1 className="text-xl font-bold">{demo ? "Who are you today?" : "Sign in"}</h1>
        <p className="mt-1 text-ink-2">
          {company}
          {demo && ". This is the made-up company: pick anybody, each sees their own part of the job."}
        </p>
        {demo ? (
          <Form method="post" className="mt-6 border-t-2 border-ink">
            <Problems problems={problems} />
            <ul>
              {people.map((p) => (
                <li key={p.id}>
                  <button
                    type="submit"
                    name="as"
                    value={p.id}
                    disabled={busy}
                    className="flex w-full items-baseline gap-4 border-b border-rule bg-sheet px-4 py-2.5 text-left hover:bg-here"
                  >
                    <span className="w-44 font-semibold">{p.name}</span>
                    <span className="text-ink-2">{p.title}</span>
                    <span className="ml-auto text-xs text-ink-3">{p.store}</span>
                  </button>
                </li>
              ))}
            </ul>
          </Form>
        ) : (
          <Form method="post" className="mt-6 flex max-w-sm flex-col gap-4">
            <TextField
              label="Name you sign in with"
              autoComplete="username"
              problem={problemAt(problems, "login")}
              name="login"
            />
            <TextField
              label="Password"
              autoComplete="current-password"
              problem={problemAt(problems, "password")}
              type="password"
              name="password"
            />
            <Problems problems={problems} />
            <div>
              <Button type="submit" look="main" disabled={busy}>
                Sign in
              </Button>
            </div>
          </Form>
        )}
      </div>
    </main>
  );
}
