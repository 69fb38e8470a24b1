import { useEffect, useRef, useState } from "react";
import { useKeys } from "../ui/keys";
import { useAddress } from "../ui/use-address";

/** Narrows a sheet that lies on the server to the rows with a text; it stands in the address. */
export function FindBox({ text }: { text: string }) {
  const { put } = useAddress();
  const [typed, setTyped] = useState(text);
  const entry = useRef<HTMLInputElement>(null);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const last = useRef(text);
  useEffect(() => {
    if (text !== last.current) setTyped(text); // came by another address
    last.current = text;
  }, [text]);
  useEffect(() => () => clearTimeout(waiting.current), []);
  useKeys([{ key: "f", label: "find in this sheet", run: () => entry.current?.focus() }]);
  return (
    <input
      ref={entry}
      aria-label="Find in this sheet"
      placeholder="find in this sheet"
      maxLength={80}
      value={typed}
      onChange={(e) => {
        const value = e.target.value;
        setTyped(value);
        clearTimeout(waiting.current);
        waiting.current = setTimeout(() => {
          last.current = value;
          put({ find: value.trim() || null });
        }, 160);
      }}
      className="entry min-h-[28px] w-[150px] py-[2px] text-xs"
    />
  );
}
