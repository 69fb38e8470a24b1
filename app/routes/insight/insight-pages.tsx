import { useMatches, useNavigate } from "react-router";
import { Cuts } from "../../ui/frame-parts";

/** The pages of Insight that the person may open, side by side: the frame says which. */
export function InsightPages({ here }: { here: string }) {
  const navigate = useNavigate();
  const pages = useMatches().flatMap(
    ({ loaderData }) => (loaderData as { insight?: { name: string; href: string }[] } | undefined)?.insight ?? [], // the frame's own loader, of routes/frame.tsx
  );
  return (
    <Cuts
      label="Insight"
      value={here}
      options={pages.map((p) => ({ value: p.href, label: p.name }))}
      onChange={(to) => void navigate(to)}
    />
  );
}
