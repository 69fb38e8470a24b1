import { useNavigate } from "react-router";
import { Cuts } from "../../ui/frame-parts";

const PAGES = [
  { value: "/insight", label: "Where it went" },
  { value: "/insight/why", label: "Why it changed" },
  { value: "/insight/prices", label: "Prices" },
  { value: "/insight/suppliers", label: "Suppliers" },
  { value: "/insight/stops", label: "Stops" },
] as const;

/** The pages of Insight, side by side. */
export function InsightPages({ here }: { here: (typeof PAGES)[number]["value"] }) {
  const navigate = useNavigate();
  return <Cuts label="Insight" value={here} options={[...PAGES]} onChange={(to) => void navigate(to)} />;
}
