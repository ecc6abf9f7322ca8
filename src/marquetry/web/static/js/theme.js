// Runs before the page is painted: day or night as chosen before, else as the machine is set.
(() => {
  const kept = localStorage.getItem("theme");
  const dark = matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = kept || (dark ? "night" : "day");
})();
