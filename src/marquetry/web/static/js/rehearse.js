// A play by hand: a key or a finger held, the plate that goes along, and what was let go told to the program.
// How far anything goes stands in the page, tick by tick, as the program reckoned it.
const Rehearse = {
  held: null,
  busy: Promise.resolve(),

  get play() {
    return document.getElementById("play");
  },
  hold(button) {
    if (this.held) return;
    const track = button.dataset.track.split(",").map(Number);
    this.held = { button, track, at: performance.now(), what: button.dataset.hold };
    button.classList.add("held");
    this.step();
  },
  step() {
    if (!this.held) return;
    const { button, track, at, what } = this.held;
    const ms = performance.now() - at;
    if (ms >= Number(this.play.dataset.longest)) return this.letGo();
    const seen = STILL.matches ? Math.floor(ms / COARSE_MS) * COARSE_MS : ms;
    const way = this.along(track, seen / Number(this.play.dataset.tick)) - track[0];
    const shift = `translate(${(Number(button.dataset.right) * way).toFixed(3)} ${(-Number(button.dataset.up) * way).toFixed(3)})`;
    for (const part of this.play.querySelectorAll(`[data-moves~="${what}"]`)) part.setAttribute("transform", shift);
    requestAnimationFrame(() => this.step());
    return undefined;
  },
  along(track, ticks) {
    const before = Math.min(Math.floor(ticks), track.length - 1);
    const after = Math.min(before + 1, track.length - 1);
    return track[before] + (track[after] - track[before]) * (ticks - before);
  },
  letGo() {
    if (!this.held) return;
    const { button, at } = this.held;
    const ms = Math.min(performance.now() - at, Number(this.play.dataset.longest));
    this.held = null;
    button.classList.remove("held");
    button.form.elements.value.value = Math.round(ms);
    this.send(button.form, button);
  },
  // One after the other: each move names its place, so that none is made twice.
  send(form, button) {
    const body = new URLSearchParams(new FormData(form, button));
    this.busy = this.busy.then(() => this.post(form.action, body)).catch(() => this.tell("The program does not answer. That move was not made."));
    return this.busy;
  },
  async post(address, body) {
    this.tell("");
    // Pressed while the one before was on its way, it comes after it.
    const place = this.play.querySelector("input[name=place]");
    if (!place) return undefined;
    body.set("place", place.value);
    const answer = await fetch(address, { method: "POST", body, headers: { "Marquetry-Fragment": "1", Accept: "text/html" } });
    const fresh = document.createElement("template");
    fresh.innerHTML = await answer.text();
    const play = fresh.content.querySelector("#play");
    if (!play) return this.tell("That move could not be made. Look at the page anew.");
    this.put(play);
    return undefined;
  },
  put(play) {
    const active = document.activeElement;
    // Who goes by Tab stays where he was; after a finger or a mouse the keys are free again.
    const press = !this.byPointer && active?.matches("button[data-press]") ? active.dataset.press : null;
    if (this.counts !== undefined) play.querySelector("#play-counts").open = this.counts;
    this.play.replaceWith(play);
    // What was chosen or typed is done: the keys of the taps come next, Enter among them.
    const same = press && [...play.querySelectorAll("button[data-press]")].find((one) => one.dataset.press === press);
    const next = document.getElementById("play-teacher") ?? same ?? document.getElementById("main");
    next.focus({ preventScroll: true });
  },
  tell(words) {
    document.getElementById("line").textContent = words;
  },
  pressed(key) {
    return [...document.querySelectorAll("[data-press]")].find((one) => one.dataset.press === key);
  },
};
const STILL = matchMedia("(prefers-reduced-motion: reduce)");
const COARSE_MS = 240;
const typing = (target) => target.matches?.("input, select, textarea");

document.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-move]");
  if (!form) return;
  event.preventDefault();
  if (!event.submitter?.matches("[data-hold]")) Rehearse.send(form, event.submitter);
});
document.addEventListener("click", (event) => {
  // Who opened the reasons keeps them open, and who closed them closed.
  const fold = event.target.closest("summary")?.parentElement;
  if (fold?.id === "play-counts") Rehearse.counts = !fold.open;
});
document.addEventListener("pointerdown", (event) => {
  Rehearse.byPointer = true;
  const button = event.target.closest?.("[data-hold]");
  if (!button || event.button) return;
  event.preventDefault();
  button.focus({ preventScroll: true });
  Rehearse.hold(button);
});
for (const ends of ["pointerup", "pointercancel"]) document.addEventListener(ends, () => Rehearse.letGo());
document.addEventListener("visibilitychange", () => Rehearse.letGo());
document.addEventListener("contextmenu", (event) => event.target.closest?.("[data-hold]") && event.preventDefault());
// The keys of a play come before those of every page: `b` reads the bore here.
document.addEventListener(
  "keydown",
  (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Tab") Rehearse.byPointer = false;
    const field = event.target;
    if (typing(field)) {
      if (event.key === "Escape") field.blur();
      const step = Number(field.dataset.step);
      if (step && ["ArrowUp", "ArrowDown"].includes(event.key)) {
        event.preventDefault();
        const now = Number(field.value.replace(",", ".").replace("−", "-")) || 0;
        field.value = Math.max(now + (event.key === "ArrowUp" ? step : -step), 0).toFixed(2);
      }
      return;
    }
    const own = field.closest?.("[data-hold]");
    const usual = [" ", "Enter"].includes(event.key) && !own && field.matches?.("a, button, summary");
    const target = own && [" ", "Enter"].includes(event.key) ? own : usual ? null : Rehearse.pressed(event.key);
    if (!target) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (event.repeat) return;
    if (target.matches("[data-hold]")) {
      Rehearse.key = event.key;
      Rehearse.hold(target);
    } else if (target.matches("input")) {
      target.focus();
      target.select();
    } else if (target.matches("[role=group]")) target.querySelector("button")?.focus();
    else target.click();
  },
  true,
);
document.addEventListener("keyup", (event) => {
  if (event.key !== Rehearse.key) return;
  Rehearse.key = null;
  event.preventDefault();
  Rehearse.letGo();
});
document.addEventListener("DOMContentLoaded", () => document.getElementById("rehearsal").classList.add("by-hand"));
