import { useState } from "react";
import { useSearchParams, useSubmit } from "react-router";
import type { View } from "../../server/acts/views/keep-view";
import { Button } from "../ui/button";
import { newKey } from "../ui/submission";
import type { ViewWord } from "../web/view-acts";

/** Ways to look at a sheet that were kept under a name, and those that others share. `path` is the sheet’s own page. */
export function ViewsPanel({
  views,
  path,
  mails = false,
}: {
  views: readonly View[];
  path: string;
  /** They can be sent by e-mail. */
  mails?: boolean;
}) {
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
          <li key={v.id} className="flex flex-wrap items-center gap-x-2 border-b border-rule-2 py-1">
            <button
              type="button"
              className={`flex-1 text-left hover:underline ${v.address === address.toString() ? "font-semibold" : ""}`}
              onClick={() => setSearch(new URLSearchParams(v.address), { replace: true })}
            >
              {v.name}
              {v.by && <span className="text-2xs text-ink-3"> by {v.by}</span>}
            </button>
            {v.by === null && (
              <>
                {mails && (
                  <select
                    className="entry h-6 py-0 text-xs"
                    aria-label={`Send ${v.name} by e-mail`}
                    value={v.mails ?? ""}
                    onChange={(e) =>
                      act({ do: "mail view" satisfies ViewWord, view: String(v.id), every: e.target.value })
                    }
                  >
                    <option value="">not mailed</option>
                    <option value="week">each Monday</option>
                    <option value="month">each month</option>
                  </select>
                )}
                <button
                  type="button"
                  className="text-xs underline"
                  aria-label={`${v.shared ? "Share no more" : "Share"} the view ${v.name}`}
                  onClick={() =>
                    act({ do: "share view" satisfies ViewWord, view: String(v.id), shared: v.shared ? "" : "on" })
                  }
                >
                  {v.shared ? "Unshare" : "Share"}
                </button>
                <button
                  type="button"
                  className="text-xs underline"
                  aria-label={`Forget the view ${v.name}`}
                  onClick={() => act({ do: "drop view" satisfies ViewWord, view: String(v.id) })}
                >
                  Forget
                </button>
              </>
            )}
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
