// A file too large is told before it is sent; work in progress is asked after until the page it leads to opens.
document.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-most]");
  const field = form?.querySelector("input[type=file]");
  const file = field?.files[0];
  const most = Number(form?.dataset.most);
  if (!file || file.size <= most) return;
  event.preventDefault();
  const what = form.dataset.what ?? "a build sheet";
  form.querySelector(".told").textContent =
    `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; ${what} has at most ${most / 1e6} MB. Choose another file.`;
  field.setAttribute("aria-invalid", "true");
});

const awaitWork = () => {
  const work = document.getElementById("work");
  if (!work || work.hasAttribute("data-over")) return;
  if (work.dataset.goesTo) location.replace(work.dataset.goesTo);
  else setTimeout(() => Exchange.enqueue(() => Exchange.exchange(location.pathname, {})).then(awaitWork), 250);
};
window.addEventListener("DOMContentLoaded", awaitWork);
