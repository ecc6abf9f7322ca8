// The shelf's search follows every letter; a part's drawing shows the dimension whose field has the focus.
const Seek = { soon: 0 };

document.addEventListener("input", (event) => {
  const form = event.target.form;
  if (!form?.hasAttribute("data-quick") || !event.target.matches("input")) return;
  clearTimeout(Seek.soon);
  Seek.soon = setTimeout(() => {
    const query = Forms.looked(form);
    history.replaceState(null, "", query);
    Exchange.load(query);
  }, 120);
});
document.addEventListener("focusin", (event) => {
  const drawing = document.getElementById("part-drawing");
  const path = event.target.closest?.(".row-quantity")?.elements.path.value;
  if (!drawing || !path || drawing.dataset.at === path) return;
  drawing.dataset.at = path;
  Exchange.load(`?at=${encodeURIComponent(path)}`);
});
