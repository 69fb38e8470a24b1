import { DropdownMenu } from "radix-ui";
import { useEffect, useRef } from "react";
import { Form, NavLink, useLocation, useMatches, useNavigate } from "react-router";
import { Finder } from "./finder";
import { isTyping } from "./keys";
import { TallyMark } from "./mark";

export interface Stop {
  name: string;
  href: string;
  letter: string;
  /** Other addresses at which this stop is lit. */
  also?: string[];
}
export interface Links {
  name: string;
  href: string;
}

interface Props {
  stops: Stop[];
  tools: Links[];
  menu: Links[];
  counts: Record<string, { count: number; late: boolean }>;
  person: { name: string; title: string };
}

/** The job in working order, with what waits for this person at each stop. */
export function Rail({ stops, tools, menu, counts, person }: Props) {
  const { pathname } = useLocation();
  // A paper may say itself at which stop it stands, since that changes on its way.
  const { stop } = (useMatches().at(-1)?.loaderData ?? {}) as { stop?: string };
  useGoKeys([...stops]);
  return (
    <header className="on-mast print:hidden flex min-h-[52px] items-stretch bg-mast pr-4 pl-3.5 text-[#c6d1d1] max-lg:flex-wrap">
      <a
        href="#sheet"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-lamp focus:px-3 focus:py-2 focus:text-mast"
      >
        Skip to the sheet
      </a>
      <NavLink
        to="/today"
        className="flex items-center gap-2.5 pr-5 font-display text-base font-bold text-[#f2f4ee]"
        aria-label="Wharf Tally, to Today"
      >
        <TallyMark />
        <span className="max-xl:hidden">Wharf Tally</span>
      </NavLink>
      <nav aria-label="Stops" className="flex items-stretch overflow-x-auto max-lg:order-last max-lg:w-full">
        {stops.map((s) => {
          const on = stop
            ? stop === s.name
            : pathname.startsWith(s.href) || (s.also ?? []).some((a) => pathname.startsWith(a));
          const waiting = counts[s.name];
          return (
            <NavLink
              key={s.name}
              to={s.href}
              aria-current={on ? "page" : undefined}
              className={`relative flex min-w-[78px] shrink-0 flex-col justify-center border-t-[3px] px-4 max-xl:min-w-0 max-xl:px-3 py-1 leading-tight whitespace-nowrap ${on ? "border-lamp bg-mast-2 text-white" : "border-[#2c4048] text-[#b9c6c6] hover:text-white"}`}
            >
              <span
                aria-hidden="true"
                className={`absolute -top-[5px] left-4 size-[7px] rounded-full ${on ? "bg-lamp" : "bg-[#5d757b]"}`}
              />
              <span className="text-[12.5px] font-medium">{s.name}</span>
              <b className={`font-mono text-xs font-semibold ${waiting?.late ? "text-[#ff9a76]" : "text-[#e9eee9]"}`}>
                {waiting?.count ?? ""}
                {waiting?.late && <span className="sr-only"> and some of it late</span>}
              </b>
            </NavLink>
          );
        })}
      </nav>
      <div className="ml-auto flex items-center gap-3.5 py-1">
        {tools.map((t) => (
          <NavLink
            key={t.href}
            to={t.href}
            className={({ isActive }) =>
              `max-md:hidden ${isActive ? "text-white underline decoration-lamp decoration-2" : "hover:text-white"}`
            }
          >
            {t.name}
          </NavLink>
        ))}
        <Finder />
        <PersonMenu person={person} menu={[...menu]} tools={tools} />
      </div>
    </header>
  );
}

function PersonMenu({ person, menu, tools }: { person: Props["person"]; menu: Links[]; tools: Links[] }) {
  const navigate = useNavigate();
  const signOut = useRef<HTMLFormElement>(null);
  const initials = person.name
    .split(/\s+/)
    .map((w) => w[0])
    .slice(0, 2)
    .join("");
  const entry = "cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-here";
  return (
    <>
      <Form method="post" action="/sign-out" ref={signOut} className="hidden" />
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger
          aria-label={`${initials}: menu of ${person.name}`}
          className="grid size-[28px] place-items-center rounded-full bg-lamp text-2xs font-bold text-mast"
        >
          {initials}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={8} className="z-50 min-w-52 border-2 border-ink bg-sheet py-1">
            <DropdownMenu.Label className="border-b border-rule px-4 pt-1 pb-2">
              <span className="block font-semibold">{person.name}</span>
              <span className="text-xs text-ink-3">{person.title}</span>
            </DropdownMenu.Label>
            {tools.map((m) => (
              <DropdownMenu.Item key={m.href} className={`${entry} md:hidden`} onSelect={() => navigate(m.href)}>
                {m.name}
              </DropdownMenu.Item>
            ))}
            {menu.map((m) => (
              <DropdownMenu.Item key={m.href} className={entry} onSelect={() => navigate(m.href)}>
                {m.name}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            <DropdownMenu.Item className={entry} onSelect={() => signOut.current?.requestSubmit()}>
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </>
  );
}

/** The key is somebody else's: of the browser, or of a dialog. */
const isElsewhere = (e: KeyboardEvent) =>
  e.defaultPrevented ||
  e.ctrlKey ||
  e.metaKey ||
  e.altKey ||
  document.querySelector("[role=dialog], [role=menu]") !== null;

/** G, then a letter, goes to a stop. Esc steps back. */
function useGoKeys(stops: Stop[]): void {
  const navigate = useNavigate();
  const armed = useRef(0);
  const latest = useRef(stops);
  latest.current = stops;
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isElsewhere(e)) return;
      if (e.key === "Escape") {
        if (isTyping(e.target)) e.target.blur();
        else void navigate(-1);
        return;
      }
      if (isTyping(e.target)) return;
      const key = e.key.toLowerCase();
      const stop = e.timeStamp < armed.current ? latest.current.find((s) => s.letter === key) : undefined;
      armed.current = key === "g" && !stop ? e.timeStamp + 1500 : 0;
      if (stop) {
        e.preventDefault();
        e.stopImmediatePropagation(); // the second letter is not also a key of the page
        void navigate(stop.href);
      }
    };
    document.addEventListener("keydown", press, true);
    return () => document.removeEventListener("keydown", press, true);
  }, [navigate]);
}
