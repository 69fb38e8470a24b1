import { notFound, page } from "../web/page";

export const loader = page("keep own inbox", () => {
  throw notFound("There is no such page. The address may be mistyped, or what stood here is gone.");
});

export default function Nowhere() {
  return null;
}
