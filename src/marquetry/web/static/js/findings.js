// Findings light up where they are, and are walked one after the other.
const Findings = {
  light(check) {
    for (const mark of document.querySelectorAll("#plate .finding")) mark.classList.toggle("lit", mark.dataset.check === check);
  },
  step(by) {
    const marks = [...document.querySelectorAll("#rail a")];
    if (!marks.length) return;
    const at = marks.findIndex((mark) => mark.hasAttribute("aria-current"));
    Links.choose(marks[(at + by + marks.length) % marks.length]);
  },
};

// A mark of the rail is named by its finding: rail-stem_height.
const pointed = (event) => {
  const over = event.target.closest?.("[data-check], #rail a");
  Findings.light(over?.dataset.check ?? over?.id.replace(/^rail-/, ""));
};
document.addEventListener("pointerover", pointed);
document.addEventListener("focusin", pointed);
document.addEventListener("focusout", () => Findings.light(undefined));
document.addEventListener("click", (event) => {
  const step = event.target.closest("[data-step]");
  if (step) Findings.step(step.dataset.step === "next" ? 1 : -1);
  const gap = !event.target.closest("a") && event.target.closest("#plate .finding");
  const note = gap && document.querySelector(`#plate .finding[data-check="${gap.dataset.check}"] a.note`);
  if (note) Links.choose(note);
});
