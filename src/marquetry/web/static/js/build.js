// The bench view: one step a screen. Screens are held here, so that going on never waits for the line.
const Bench = {
  screens: new Map(),
  states: {},
  root: null,

  get screen() {
    return document.getElementById("screen");
  },
  get step() {
    return this.screen.dataset.step;
  },
  begin() {
    this.root = document.getElementById("bench-view");
    Line.heard = (told, batch) => this.heard(told, batch);
    Line.begin(this.root);
    this.fetchScreens();
    this.fetchState();
    this.listen();
    this.ask("");
    this.entered();
    this.wake();
    document.addEventListener("visibilitychange", () => (document.hidden ? this.left() : this.returned()));
    document.addEventListener("rang", () => this.fetchState());
    window.addEventListener("pagehide", () => this.left());
    window.addEventListener("popstate", () => this.show(decodeURIComponent(location.pathname.split("/").pop()), false));
  },
  returned() {
    this.entered();
    this.wake();
    this.fetchState();
  },
  async fetchScreens() {
    try {
      const held = document.createElement("template");
      held.innerHTML = await (await fetch(this.root.dataset.screens)).text();
      for (const one of held.content.querySelectorAll("template[data-screen]")) this.screens.set(one.dataset.screen, one.content.firstElementChild);
      this.refresh();
    } catch {
      setTimeout(() => this.fetchScreens(), 3000);
    }
  },
  async fetchState() {
    try {
      this.told(await (await fetch(this.root.dataset.state)).json());
    } catch {
      // The line is gone; what is shown stays, and the stream asks again once it is back.
    }
  },
  listen() {
    const source = new EventSource(this.root.dataset.stream);
    source.addEventListener("bench", (event) => {
      this.fetchState();
      if (event.data === "measured") this.fetchScreens();
    });
    source.addEventListener("open", () => {
      Line.send();
      this.fetchState();
    });
    window.addEventListener("pagehide", () => source.close());
  },
  // Another drawing, another figure: the screen at hand is exchanged where nobody types in it.
  refresh() {
    const fresh = this.screens.get(this.step);
    if (!fresh || [...this.screen.querySelectorAll("input:not([type=hidden])")].some((field) => field.value)) return;
    this.put(this.step);
  },
  put(step) {
    const open = document.querySelector(".drawer:not([hidden])")?.id;
    const fault = document.getElementById("screen-fault")?.textContent;
    const same = step === this.step;
    const field = same && this.screen.contains(document.activeElement) ? document.activeElement.id : "";
    this.screen.replaceWith(this.screens.get(step).cloneNode(true));
    if (same && open) document.getElementById(open).hidden = false;
    if (same && fault) document.getElementById("screen-fault").textContent = fault;
    this.mark();
    if (!same || field) this.ask(field);
  },
  // The figure that is asked for has the cursor; where nothing is asked, the keys are the buttons'.
  ask(field) {
    const asked = this.screen.querySelector("[data-asked]");
    (asked ?? (field ? document.getElementById("main") : null))?.focus({ preventScroll: true });
  },
  told(state) {
    this.states = state.steps;
    this.here = state.here;
    document.getElementById("settled").textContent = state.settled;
    this.mark();
  },
  // What is waiting here counts as answered already: the line may be gone for an hour.
  stateOf(step) {
    const answer = Line.waiting.findLast((entry) => entry.step === step && ANSWERED[entry.what]);
    return answer ? [ANSWERED[answer.what], ANSWERED[answer.what], ""] : this.states[step];
  },
  mark() {
    const told = this.stateOf(this.step);
    if (!told) return;
    const [state, word, why] = told;
    const screen = this.screen;
    screen.className = `screen screen-${state}`;
    screen.dataset.state = state;
    document.getElementById("screen-state").textContent = word;
    const place = document.getElementById("screen-why-not");
    place.textContent = why;
    place.hidden = !why || (state === "waiting" && this.isFree);
  },
  // Whether nothing that the step waits for is open any more, what waits for the line counted in.
  get isFree() {
    const waits = this.screen.dataset.waits.split(" ").filter((name) => this.states[name]);
    const held = this.states[this.step]?.[3];
    return !held && waits.every((name) => SETTLED.has(this.stateOf(name)[0]));
  },
  show(step, push = true) {
    if (!step) return void (location.href = this.root.dataset.list);
    if (!this.screens.has(step)) return void (location.href = `${this.root.dataset.list}/at/${step}`);
    this.left();
    this.put(step);
    if (push) history.pushState(null, "", `${this.root.dataset.list}/at/${step}`);
    document.title = `${document.querySelector(".screen-title").textContent} – Marquetry`;
    window.scrollTo(0, 0);
    document.getElementById("main").focus({ preventScroll: true });
    this.ask("");
    this.entered();
  },
  // Time on a step runs while it is open and looked at; who only leafs through begins nothing.
  entered() {
    // A caliper's button reaches the step's field without a finger on the tablet.
    Cable.take(document.querySelector("#screen .screen-entry-first input[name=value]"));
    clearTimeout(this.starting);
    if (document.hidden || this.running) return;
    const [step, at] = [this.step, Date.now()];
    this.starting = setTimeout(() => this.step === step && this.start(step, at), LEAFS_MS);
  },
  start(step, at) {
    clearTimeout(this.starting);
    if (this.running || !["open", "failed"].includes(this.stateOf(step)?.[0] ?? this.screen.dataset.state)) return;
    this.running = step;
    Line.add({ step, what: "start", at });
  },
  left() {
    clearTimeout(this.starting);
    if (!this.running) return;
    Line.add({ step: this.running, what: "pause" });
    this.running = null;
  },
  tap(what, extra = {}) {
    const step = this.step;
    const state = this.stateOf(step)?.[0] ?? this.screen.dataset.state;
    document.getElementById("screen-fault").textContent = "";
    // A second tap on what is settled goes on; a step that waits says why once more.
    if (["done", "yes"].includes(what) && SETTLED.has(state) && state !== "unsure") return this.show(this.screen.dataset.next);
    if (["done", "yes"].includes(what) && state === "waiting" && !this.isFree) return void document.getElementById("screen-why-not").animate({ opacity: [0.2, 1] }, 300);
    if (ANSWERED[what]) this.running = null;
    const made = Line.add({ step, what, ...extra });
    this.mark();
    document.querySelectorAll(".drawer").forEach((drawer) => (drawer.hidden = true));
    if (what === "no") return void (this.after = `${this.root.dataset.list}/mishap?step=${step}`);
    // After the last step comes the list, once the answer is on disk.
    const next = this.screen.dataset.next;
    if (ANSWERED[what] && next) this.show(next);
    else if (ANSWERED[what]) this.after = this.root.dataset.list;
    return made;
  },
  // A figure stays in its field until it is known to be on disk, or kept here for want of a line.
  enter(form, sure) {
    const told = Object.fromEntries(["value", "turns", "pitch"].map((name) => [name, form.elements[name]?.value ?? ""]));
    if (!told.value.trim()) return void form.elements.value.blur();
    form.querySelector(".screen-sure").hidden = true;
    const made = this.tap(form.dataset.entry, sure ? { ...told, sure } : told);
    form.dataset.sent = made.key;
    setTimeout(() => Line.lost && form.dataset.sent === made.key && form.reset(), 1500);
  },
  taken(key, why, asks) {
    const form = document.querySelector(`#screen [data-sent="${key}"]`);
    if (!form) return;
    if (!why) return void form.reset();
    form.querySelector(".screen-sure").hidden = !asks;
    form.elements.value.focus();
    form.elements.value.select();
  },
  heard(told, batch) {
    this.told(told.state);
    for (const [key, why] of Object.entries(told.refused)) {
      const entry = batch.find((one) => one.key === key);
      if (entry?.step && entry.step !== this.step) this.show(entry.step);
      document.getElementById("screen-fault").textContent = why;
      this.taken(key, why, told.asked[key]);
    }
    for (const key of told.kept) this.taken(key, "");
    if (told.measured) this.fetchScreens();
    if (batch.some((entry) => ["note", "undo", "skip", "open", "unsure"].includes(entry.what))) this.fetchScreens();
    if (batch.some((entry) => ANSWERED[entry.what] || entry.what === "undo")) Bell.look();
    if (this.after && !Object.keys(told.refused).length) location.href = this.after;
    this.after = null;
  },
  // A lamp that goes out in the middle of a press is no help; browsers allow this only over https or on this machine.
  async wake() {
    if (!navigator.wakeLock || document.hidden) return;
    try {
      this.lock = await navigator.wakeLock.request("screen");
    } catch {
      // A low battery may refuse it; nothing is lost.
    }
  },
  open(id) {
    for (const drawer of document.querySelectorAll(".drawer")) drawer.hidden = drawer.id !== id || !drawer.hidden;
    document.querySelector(`#${id}:not([hidden]) input:not([type=hidden]), #${id}:not([hidden]) button`)?.focus();
  },
};
const LEAFS_MS = 3000;
const ANSWERED = { done: "done", yes: "passed", no: "failed", skip: "skipped", unsure: "unsure" };
const SETTLED = new Set(["done", "passed", "skipped", "unsure"]);

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.enctype === "multipart/form-data" || form.hasAttribute("data-leaves") || !form.closest("#screen")) return;
  event.preventDefault();
  const button = event.submitter;
  if (form.dataset.entry) Bench.enter(form, button?.name === "sure");
  else if (form.dataset.skip !== undefined) Bench.tap("skip", { words: button?.name === "words" ? button.value : form.querySelector("input[name=words]")?.value ?? "" });
  else if (form.dataset.note !== undefined) Bench.tap("note", { words: form.querySelector("input[name=words]").value });
  else if (button) Bench.tap(button.value);
});
document.addEventListener("click", (event) => {
  const link = event.target.closest("#screen a[data-go]");
  const opens = event.target.closest("#screen [data-opens]");
  if (opens) Bench.open(opens.dataset.opens);
  const more = event.target.closest("#screen [data-more]");
  if (more) more.setAttribute("aria-expanded", String(more.closest(".taps").classList.toggle("taps-open")));
  if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
  event.preventDefault();
  Bench.show(link.dataset.go);
});
// Keys of the screen: one that has one carries it as `data-press`; a drawer that is open takes the digits.
document.addEventListener("keydown", (event) => {
  const typing = event.target.matches?.("input:not([type=file]), select, textarea");
  const drawer = document.querySelector(".drawer:not([hidden])");
  if (event.key === "Escape" && (typing || drawer)) {
    event.preventDefault();
    event.target.blur?.();
    if (drawer) drawer.hidden = true;
    return;
  }
  // No figure begins with a space or a letter: in an empty field they are the keys of the screen.
  const empty = event.target.matches?.(".screen-entry input") && !event.target.value;
  const begins = empty && /^([a-z ]|Arrow(Left|Right))$/i.test(event.key);
  if ((typing && !begins) || event.ctrlKey || event.metaKey || event.altKey) return;
  const usual = event.key === " " && document.querySelector("#screen .tap-usual");
  const digit = drawer?.querySelector(`[data-digit="${event.key}"]`);
  const target = digit ?? usual ?? null;
  const pressed = target || [...document.querySelectorAll("[data-press]")].find((element) => element.dataset.press === event.key);
  if (!pressed) return;
  event.preventDefault();
  if (pressed.matches("input")) pressed.focus();
  else pressed.click();
});
window.addEventListener("DOMContentLoaded", () => Bench.begin());
