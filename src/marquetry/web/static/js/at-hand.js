// What is at hand is ticked off before starting: kept as everything on the bench is.
window.addEventListener("DOMContentLoaded", () => {
  Line.heard = (told, batch) => batch.some((entry) => entry.what !== "ready") && location.reload();
  Line.begin(document.getElementById("build-desk"));
  document.addEventListener("change", (event) => {
    const box = event.target.closest("[data-ready]");
    if (box) Line.add({ step: "", what: "ready", words: box.dataset.ready, value: box.checked ? "1" : "0" });
  });
});
