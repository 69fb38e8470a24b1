import { useNavigation } from "react-router";

/** True while something that was sent is on its way; going from page to page, or moving over rows, is not that. */
export function useBusy(): boolean {
  const { state, formMethod } = useNavigation();
  return state !== "idle" && formMethod !== undefined && formMethod !== "GET";
}
