import { type ReactNode, type RefObject, useEffect, useId, useRef, useState } from "react";
import { useFetcher } from "react-router";
import { Button } from "../ui/button";
import { newKey } from "../ui/submission";

interface Answer {
  ok: boolean;
  problems?: { field: string; says: string }[];
}

/** A small act within the slip: closed until it is asked for, and its refusal stands in it. */
export function SlipForm<Word extends string = never>({
  does,
  fields,
  label,
  send,
  opener,
  children,
}: {
  /** One of the words of the page that it stands on, which the type names: `<SlipForm<JobWord> does="close" …>`. */
  does: NoInfer<Word>;
  fields: Record<string, string | number>;
  label: string;
  send: string;
  /** Opens it from elsewhere: for a key. */
  opener?: RefObject<(() => void) | null>;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const fetcher = useFetcher<Answer>();
  const key = useRef("");
  const says = useId();
  const problem = fetcher.data && !fetcher.data.ok ? fetcher.data.problems?.[0]?.says : undefined;
  useEffect(() => {
    if (fetcher.state === "idle" && fetcher.data?.ok) setOpen(false);
  }, [fetcher.state, fetcher.data]);
  const show = () => {
    key.current = newKey();
    setOpen(true);
  };
  useEffect(() => {
    if (opener) opener.current = show;
  });
  const form = useRef<HTMLFormElement>(null);
  // Whoever opens it goes on typing in it.
  useEffect(() => {
    if (open) form.current?.querySelector<HTMLElement>("input, select, textarea")?.focus();
  }, [open]);
  if (!open)
    return (
      <div>
        <Button look="plain" className="min-h-0 px-0 text-xs font-normal" onClick={show}>
          {label}
        </Button>
      </div>
    );
  return (
    <fetcher.Form
      ref={form}
      method="post"
      aria-describedby={problem ? says : undefined}
      className="mt-1 flex w-full flex-col gap-2 border border-ink bg-sheet p-2.5"
      onSubmit={(e) => {
        e.preventDefault();
        const body = new FormData(e.currentTarget);
        body.set("do", does);
        body.set("key", key.current);
        for (const [name, value] of Object.entries(fields)) body.set(name, String(value));
        // The same key while it is the same wish: a second click does nothing more. A refused one is another wish.
        if (fetcher.data && !fetcher.data.ok) body.set("key", (key.current = newKey()));
        const files = [...body.values()].some((v) => v instanceof File);
        void fetcher.submit(body, { method: "post", ...(files ? { encType: "multipart/form-data" } : {}) });
      }}
    >
      {children}
      {problem && (
        <p id={says} role="alert" className="text-xs font-semibold text-signal">
          {problem}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={fetcher.state !== "idle"}>
          {send}
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </div>
    </fetcher.Form>
  );
}
