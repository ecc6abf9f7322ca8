// A file dropped anywhere on the page of a seller's text is read as one that was chosen.
document.addEventListener("dragover", (event) => {
  if (![...(event.dataTransfer?.types ?? [])].includes("Files")) return;
  event.preventDefault();
  document.getElementById("kit-file").classList.add("kit-over");
});
document.addEventListener("dragleave", () => document.getElementById("kit-file").classList.remove("kit-over"));
document.addEventListener("drop", (event) => {
  const files = event.dataTransfer?.files;
  if (!files?.length) return;
  event.preventDefault();
  const form = document.getElementById("kit-file");
  form.querySelector("input[type=file]").files = files;
  form.requestSubmit();
});
// A part pointed at shows its lines, a line its part.
document.addEventListener("focusin", (event) => {
  const tile = event.target.closest(".kit-tile");
  if (!tile) return;
  const number = tile.querySelector(".kit-tag").textContent;
  for (const line of document.querySelectorAll(".kit-line")) line.classList.remove("kit-lit");
  const first = [...document.querySelectorAll(".kit-begins")].find((line) => line.querySelector(".kit-tag").textContent === number);
  if (!first) return;
  first.classList.add("kit-lit");
  const lines = first.parentElement;
  lines.scrollTop = first.offsetTop - lines.offsetTop - 40;
});
