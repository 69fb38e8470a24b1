import { Link } from "react-router";

/** The stores among which somebody who works in all of them chooses. */
export function StoreLinks({ store, stores }: { store: number; stores: readonly { id: number; name: string }[] }) {
  if (stores.length < 2) return null;
  return (
    <nav aria-label="Stores" className="flex flex-wrap items-baseline gap-3 text-xs">
      {stores.map((s) =>
        s.id === store ? (
          <b key={s.id} aria-current="true">
            {s.name}
          </b>
        ) : (
          <Link
            key={s.id}
            to={`?store=${s.id}`}
            className="inline-block min-h-6 content-center underline max-lg:min-h-12"
          >
            {s.name}
          </Link>
        ),
      )}
    </nav>
  );
}
