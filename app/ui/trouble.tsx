import { Link } from "react-router";
import { isRecord } from "../../core/keys";
import { TallyMark } from "./mark";

interface Trouble {
  says?: string;
  reference?: string;
}

const TITLES: Record<number, string> = {
  403: "Not for your role",
  404: "Nothing here",
  500: "A fault on our side",
};

/** What a page says that cannot be shown: why, and the way out. */
export function TroubleNote({ status, trouble }: { status: number; trouble: unknown }) {
  const { says, reference }: Trouble = isRecord(trouble) ? trouble : {};
  return (
    <div className="mx-auto max-w-xl px-6 py-16">
      <p className="code">{status}</p>
      <h1 className="mt-1 font-display text-xl font-bold">{TITLES[status] ?? TITLES[500]}</h1>
      <p className="mt-3 text-base text-ink-2">{says ?? "There is no such page."}</p>
      {reference && (
        <p className="mt-3 text-ink-2">
          If you ask for help, name the reference <b className="figure">{reference}</b>.
        </p>
      )}
      <p className="mt-6">
        <Link to="/today" className="font-semibold underline">
          Go to Today
        </Link>
      </p>
    </div>
  );
}

/** The same without the rail, for where the frame itself could not be drawn. */
export function TroublePage(props: { status: number; trouble: unknown }) {
  return (
    <main className="min-h-screen border-t-[52px] border-mast bg-paper">
      <title>Wharf Tally</title>
      <div className="-mt-[40px] px-4 text-[#f2f4ee]">
        <TallyMark />
      </div>
      <TroubleNote {...props} />
    </main>
  );
}
