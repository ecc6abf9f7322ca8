// A point clicked in a photograph goes into the chosen field, in the picture's own pixels.
document.addEventListener("click", (event) => {
  const picture = event.target.closest("[data-pick]");
  if (!picture) return;
  const form = picture.closest("form");
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(picture.getScreenCTM().inverse());
  form.elements[form.elements.pick.value].value = `${at.x.toFixed(1)}; ${at.y.toFixed(1)}`;
  form.requestSubmit(form.querySelector("[data-compute]"));
});
// Another thing to be measured in the same picture: its points stay, its words change.
document.addEventListener("change", (event) => {
  if (event.target.matches("select[data-sends]")) event.target.form.requestSubmit();
});
