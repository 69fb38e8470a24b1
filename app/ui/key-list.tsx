import { Dialog } from "radix-ui";
import { useState } from "react";
import { Kbd, keyName, useKeys, useLiveKeys } from "./keys";

/** All keys that work now: key "?". */
export function KeyList({ stops }: { stops: { letter: string; name: string }[] }) {
  const [open, setOpen] = useState(false);
  const keys = useLiveKeys();
  useKeys([{ key: "?", label: "show all keys", run: () => setOpen(true) }]);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 grid max-h-[80vh] w-[min(640px,94vw)] -translate-x-1/2 grid-cols-2 gap-x-10 overflow-y-auto border-2 border-ink bg-sheet px-6 py-5 max-lg:grid-cols-1"
        >
          <Dialog.Title className="col-span-full mb-3 font-display text-lg font-bold">Keys</Dialog.Title>
          <List title="On this page" keys={keys.map((k) => [keyName(k.key), k.label])} />
          <List
            title="Everywhere"
            keys={[
              ...stops.map((s): [string, string] => [`G ${s.letter.toUpperCase()}`, `go to ${s.name}`]),
              ["Esc", "step back"],
            ]}
          />
          <Dialog.Close className="col-span-full mt-4 justify-self-start font-semibold underline">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function List({ title, keys }: { title: string; keys: [string, string][] }) {
  return (
    <section>
      <h3 className="mb-1 font-sans text-xs font-semibold text-ink-2">{title}</h3>
      <dl>
        {keys.map(([key, label]) => (
          <div key={key + label} className="flex items-center gap-3 border-b border-rule-2 py-1">
            <dt className="w-14">
              <Kbd>{key}</Kbd>
            </dt>
            <dd>{label}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
