// A slider fills its field and sends it; while a hand is on it, its own row is left alone.
const Slide = { gripped: false, waiting: false, latest: null };
Exchange.held = (part) => (Slide.gripped || Slide.waiting) && part.id === "tray";

document.addEventListener("pointerdown", (event) => (Slide.gripped = event.target.matches("[data-slide]")));
// Let go, or taken over by the screen's own scrolling: everything is asked for once more, the address written.
const released = () => {
  if (!Slide.gripped) return;
  Slide.gripped = false;
  // The address is asked for when its turn comes: positions still on their way will have changed it.
  const { address } = document.getElementById("live").dataset;
  Exchange.enqueue(() => Exchange.exchange(address + document.getElementById("tray").dataset.query, {}));
};
window.addEventListener("pointerup", released);
window.addEventListener("pointercancel", released);
document.addEventListener("input", (event) => {
  if (!event.target.matches("[data-slide]")) return;
  document.getElementById(event.target.dataset.slide).value = event.target.value;
  // Of many positions passed while one is computed only the last is sent.
  Slide.latest = Exchange.filled(event.target.form);
  if (Slide.waiting) return;
  Slide.waiting = true;
  Exchange.enqueue(() => {
    Slide.waiting = false;
    return Exchange.post(Slide.latest, Slide.gripped ? "slide" : "1");
  });
});
