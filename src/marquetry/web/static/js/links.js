// Links that change only a part of the page, folds that are filled when they are opened, and the way back.
const Links = {
  choose(link) {
    const query = typeof link === "string" ? link : link.getAttribute("href");
    history.pushState(null, "", query);
    Exchange.load(query);
  },
  fill(fold) {
    if (fold.dataset.fold === undefined) return;
    const address = fold.closest("[data-folds]").dataset.folds + fold.id.replace("part-", "");
    delete fold.dataset.fold;
    Exchange.enqueue(() => Exchange.exchange(address + (document.getElementById("tray")?.dataset.query ?? ""), {}));
  },
};

document.addEventListener("click", (event) => {
  const link = event.target.closest("a.note, a[data-live], #rail a, #garments a");
  if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
  event.preventDefault();
  Links.choose(link);
});
document.addEventListener("toggle", (event) => event.target.open && Links.fill(event.target), true);
window.addEventListener("popstate", () => Exchange.load(location.search));
window.addEventListener("DOMContentLoaded", () => {
  const loads = document.querySelector("[data-load]");
  if (loads) Exchange.load(loads.dataset.load);
});
