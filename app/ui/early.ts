/** What public/early.js kept. */
type Early = { key: string } | { click: HTMLElement } | { typed: HTMLInputElement; value: string };

declare global {
  interface Window {
    wharfEarly?: () => Early[];
  }
}

/**
 * Does what a person did while the page was being loaded: presses their keys, clicks what they clicked and types what they
 * typed, in that order. Called once, when everything on the page hears it.
 */
export function replayEarly(): void {
  const all = window.wharfEarly?.() ?? [];
  // One after the other: what a click selects is there before the key that follows.
  const next = () => {
    const one = all.shift();
    if (!one) return;
    if ("key" in one)
      document.dispatchEvent(new KeyboardEvent("keydown", { key: one.key, bubbles: true, cancelable: true }));
    else if ("click" in one) one.click.isConnected && one.click.click();
    else if (one.typed.isConnected) {
      // A controlled field hears a change only where its value was another before.
      one.typed.value = "";
      const kind: object = Object.getPrototypeOf(one.typed);
      Object.getOwnPropertyDescriptor(kind, "value")?.set?.call(one.typed, one.value);
      one.typed.dispatchEvent(new Event("input", { bubbles: true }));
    }
    setTimeout(next, 0);
  };
  next();
}
