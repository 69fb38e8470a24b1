import { useState } from "react";
import { useSearchParams, useSubmit } from "react-router";
import type { View } from "../../server/acts/views/keep-view";
import { Button } from "../ui/button";
import { newKey } from "../ui/submission";
import type { ViewWord } from "../web/view-acts";

/** Ways to look at a sheet that were kept under a name. `path` is the sheet’s own page. */
export function ViewsPanel({ views, path }: { views: readonly View[]; path: string }) {
  const [search, setSearch] = useSearchParams();
  const submit = useSubmit();
  const [name, setName] = useState("");
  const address = new URLSearchParams(search);
  address.delete("at");
  const act = (body: Record<string, string>) =>
    submit({ ...body, key: newKey() }, { method: "post", action: `${path}?${search}`, preventScrollReset: true });
  return (
    <div>
      {views.length === 0 && (
        <p className="mb-2 text-ink-3">
          None kept yet. A view is what is narrowed, grouped, sorted and shown, under a name of your own.
        </p>
      )}
      <ul>
        {views.map((v) => (
          <li key={v.id} className="flex items-center gap-2 border-b border-rule-2 py-1">
            <button
              type="button"
              className={`flex-1 text-left hover:underline ${v.address === address.toString() ? "font-semibold" : ""}`}
              onClick={() => setSearch(new URLSearchParams(v.address), { replace: true })}
            >
              {v.name}
            </button>
            <button
              type="button"
              className="text-xs underline"
              aria-label={`Forget the view ${v.name}`}
              onClick={() => act({ do: "drop view" satisfies ViewWord, view: String(v.id) })}
            >
              Forget
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (!name.trim()) return;
          void act({ do: "keep view" satisfies ViewWord, name, address: address.toString() });
          setName("");
        }}
      >
        <input
          aria-label="Name of the view"
          placeholder="name of this view"
          maxLength={40}
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="entry min-w-0 flex-1"
        />
        <Button type="submit">Keep</Button>
      </form>
    </div>
  );
}
