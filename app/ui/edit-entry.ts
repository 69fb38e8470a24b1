/** Begins to edit the entry that says by this attribute of which row it is. */
export function editEntry(attribute: string, of: string | undefined): void {
  const entry = document.querySelector<HTMLInputElement>(`[${attribute}="${CSS.escape(of ?? "")}"]`);
  entry?.focus();
  entry?.select();
}
