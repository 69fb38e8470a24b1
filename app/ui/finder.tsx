import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { Kbd, useKeys } from "./keys";
import { useFound } from "./use-found";

/** Finds any paper, item or supplier by number, code or name: key "/". */
export function Finder() {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const navigate = useNavigate();
  const { found, busy } = useFound(open ? text : "", "all");
  useKeys([{ key: "/", label: "find a paper, an item or a supplier", run: () => setOpen(true) }]);
  useEffect(() => {
    if (!open) setText("");
  }, [open]);
  const go = (href: string) => {
    setOpen(false);
    void navigate(href);
  };
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="flex h-[30px] w-[190px] items-center justify-between rounded-[3px] border border-[#3a5058] px-2 text-[#b4c2c3] max-xl:w-[110px]">
        Find <Kbd>/</Kbd>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/35" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(620px,94vw)] -translate-x-1/2 border-2 border-ink bg-sheet"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command shouldFilter={false} label="Find">
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder="number, code or name"
              className="w-full border-b border-rule bg-transparent px-4 py-3 text-base outline-none placeholder:text-ink-3"
            />
            <Command.List className="max-h-[50vh] overflow-y-auto p-1" aria-label="Found">
              {text.trim().length < 2 ? (
                <p className="px-3 py-4 text-ink-3">
                  Orders and requisitions by number, items and suppliers by code, their code or name.
                </p>
              ) : (
                found.length === 0 && (
                  <p className="px-3 py-4 text-ink-3">{busy ? "Looking…" : "Nothing of that name."}</p>
                )
              )}
              {found.map((f) => (
                <Command.Item
                  key={f.href + f.code}
                  value={f.href + f.code}
                  onSelect={() => go(f.href)}
                  className="flex items-baseline gap-3 px-3 py-1.5 data-[selected=true]:bg-here"
                >
                  <span className="code w-28 shrink-0 truncate">{f.code}</span>
                  <span className="truncate">{f.name}</span>
                  <span className="ml-auto text-xs text-ink-3">{f.kind}</span>
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
