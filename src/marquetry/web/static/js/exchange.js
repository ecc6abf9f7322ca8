// Exchanges parts of a page with the server: one request after the other, each answer put in its place.
// Every figure comes from the server; addresses come with the elements.
const Exchange = {
  queue: Promise.resolve(),
  pending: 0,
  // Parts that are left alone while a hand is on them; slide.js fills this in.
  held: () => false,

  // Each request names the version that the one before it made, so none overtakes another.
  enqueue(work) {
    this.pending += 1;
    this.showPending();
    this.queue = this.queue
      .then(work)
      .catch(() => this.tell("The program does not answer. What you typed is not saved."))
      .then(() => {
        this.pending -= 1;
        this.showPending();
      });
    return this.queue;
  },
  showPending() {
    document.getElementById("status")?.classList.toggle("saving", this.pending > 0);
  },
  async exchange(address, options, kind = "1") {
    const answer = await fetch(address, { ...options, headers: { "Marquetry-Fragment": kind, Accept: "text/html" } });
    this.swap(await answer.text(), kind);
  },
  load(query) {
    const root = document.getElementById("live");
    if (root) this.enqueue(() => this.exchange(root.dataset.address + query, {}));
  },
  // What a form holds now, before anything else changes it.
  filled(form, button = null) {
    return { path: form.action.split("?")[0], body: new URLSearchParams(new FormData(form, button)) };
  },
  post({ path, body }, kind) {
    const status = document.getElementById("status");
    if (status) body.set("version", status.dataset.version);
    const address = path + (document.getElementById("tray")?.dataset.query ?? location.search);
    return this.exchange(address, { method: "POST", body }, kind);
  },
  tell(words) {
    const notice = document.getElementById("notice");
    notice.className = "notice";
    notice.textContent = words;
  },
  // Puts each part of the answer in its place, and the focus and half-typed text back where they were.
  swap(text, kind = "1") {
    const fresh = document.createElement("template");
    fresh.innerHTML = text;
    const active = document.activeElement;
    const changed = active?.tagName === "INPUT" && active.type !== "range" && active.value !== active.defaultValue;
    const focus = { id: active?.id, check: active?.closest?.("a.note") && active.closest(".finding")?.dataset.check, typed: changed ? active.value : null };
    const query = fresh.content.querySelector("[data-query]")?.dataset.query;
    for (const part of fresh.content.querySelectorAll("[data-swap]")) if (!this.held(part)) this.put(part);
    if (query) {
      const tray = document.getElementById("tray");
      if (tray) tray.dataset.query = query;
      // The address costs the browser 10 ms; a slider's is written when it is let go.
      if (kind !== "slide") history.replaceState(null, "", query);
    }
    this.showPending();
    this.refocus(focus);
    document.dispatchEvent(new Event("swapped"));
  },
  put(part) {
    const old = document.getElementById(part.id);
    if (!old) return;
    if (part.hasAttribute("data-graft")) return void Graft.onto(old, part);
    if (old.open) part.open = true;
    for (const inner of old.querySelectorAll("details[open][id]")) part.querySelector(`#${CSS.escape(inner.id)}`)?.setAttribute("open", "");
    old.replaceWith(part);
  },
  refocus({ id, check, typed }) {
    const target = (id && document.getElementById(id)) || (check && document.querySelector(`#plate .finding[data-check="${check}"] a.note`));
    if (!target || target === document.activeElement) return;
    target.focus({ preventScroll: true });
    if (typed !== null) target.value = typed;
    else this.ready(target);
  },
  // A worksheet's field takes several readings: the next one goes behind those that are there.
  ready(field) {
    if (!field.name?.startsWith("in-") || !field.value) return field.select?.();
    field.value += " ";
    field.setSelectionRange(field.value.length, field.value.length);
  },
};
