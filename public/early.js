// What a person does before the page hears it: keys, ticks, clicks on buttons and what they typed are kept, and done once it does.
(() => {
  const early = [];
  const target = (e) => (e.target instanceof Element ? e.target : null);
  const typing = (t) => t?.matches("textarea, select, input:not([type=checkbox]):not([type=radio])") ?? false;
  const heard = () => "live" in document.documentElement.dataset;
  const key = (e) => {
    if (heard() || e.ctrlKey || e.metaKey || e.altKey || typing(target(e))) return;
    const control = target(e)?.closest("a, button, summary, input");
    if (control && (e.key === "Enter" || e.key === " ")) return; // the click that follows is kept
    if (e.key === "Tab") return;
    e.preventDefault();
    early.push({ key: e.key });
  };
  const click = (e) => {
    const control = target(e)?.closest("button[type=button], input[type=checkbox], tr[aria-rowindex]");
    if (heard() || !control || target(e)?.closest("a, summary, [type=submit]")) return;
    e.preventDefault();
    e.stopPropagation();
    early.push({ click: control });
  };
  const input = (e) => {
    if (!heard() && typing(target(e))) early.push({ typed: e.target, value: e.target.value });
  };
  document.addEventListener("keydown", key, true);
  document.addEventListener("click", click, true);
  document.addEventListener("input", input, true);
  window.wharfEarly = () => {
    document.removeEventListener("keydown", key, true);
    document.removeEventListener("click", click, true);
    document.removeEventListener("input", input, true);
    return early.splice(0);
  };
})();
