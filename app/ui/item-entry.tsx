import { Command } from "cmdk";
import { useState } from "react";
import { type Finding, useFound } from "./use-found";

/** Finds an item by code or name as one types; what is no item stays as free words, for a service. */
export function ItemEntry({
  label,
  text,
  onText,
  onItem,
  invalid,
  describedBy,
  autoFocus,
  placeholder = "item code or name, or a service in your words",
}: {
  label: string;
  text: string;
  onText: (t: string) => void;
  onItem: (f: Finding) => void;
  invalid: boolean;
  describedBy?: string;
  autoFocus?: boolean;
  placeholder?: string;
}) {
  const [open, setOpen] = useState(false);
  const { found } = useFound(open ? text : "", "items");
  const choose = (f: Finding) => {
    setOpen(false);
    onItem(f);
  };
  return (
    <Command
      shouldFilter={false}
      label={label}
      className="relative"
      onKeyDown={(e) => e.key === "Escape" && setOpen(false)}
    >
      <Command.Input
        value={text}
        autoFocus={autoFocus}
        onValueChange={(t) => {
          onText(t);
          setOpen(true);
        }}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        placeholder={placeholder}
        aria-invalid={invalid || undefined}
        aria-describedby={describedBy}
        className="entry w-full"
      />
      <Command.List
        aria-label="Items found"
        onMouseDown={(e) => e.preventDefault()}
        className={`absolute inset-x-0 top-full z-20 max-h-64 overflow-y-auto border border-ink bg-sheet ${open && found.length > 0 ? "" : "hidden"}`}
      >
        {open &&
          found.map((f) => (
            <Command.Item
              key={f.id}
              value={String(f.id)}
              onSelect={() => choose(f)}
              className="flex items-baseline gap-3 px-2 py-1 data-[selected=true]:bg-here"
            >
              <span className="code w-20 shrink-0">{f.code}</span>
              <span className="truncate">{f.name}</span>
              <span className="ml-auto shrink-0 text-xs text-ink-3">{f.about}</span>
            </Command.Item>
          ))}
      </Command.List>
    </Command>
  );
}
