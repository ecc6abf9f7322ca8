// The line to the program: entries wait here until it says they are on disk; a lost line keeps them and sends later.
const Line = {
  waiting: [],
  sending: false,
  pause: 500,
  heard: () => {},

  begin(root) {
    this.root = root;
    this.store = `bench-${root.dataset.watch}`;
    this.device = localStorage.getItem("device") ?? crypto.randomUUID();
    localStorage.setItem("device", this.device);
    this.waiting = JSON.parse(localStorage.getItem(this.store) ?? "[]");
    window.addEventListener("online", () => this.send());
    this.show();
    if (this.waiting.length) this.send();
  },
  // On this device's own disk before anything is shown; sent in the order it was made.
  add(entry) {
    const made = { key: crypto.randomUUID(), at: Date.now(), ...entry };
    this.waiting.push(made);
    this.keep();
    this.send();
    return made;
  },
  keep() {
    localStorage.setItem(this.store, JSON.stringify(this.waiting));
    this.show();
  },
  async send() {
    if (this.sending || !this.waiting.length) return;
    this.sending = true;
    const batch = this.waiting.slice(0, 200);
    try {
      this.took(batch, await this.post(batch));
      this.pause = 500;
    } catch {
      this.lost = true;
      this.pause = Math.min(this.pause * 2, 5000);
      setTimeout(() => this.send(), this.pause);
    }
    this.sending = false;
    this.show();
    if (this.waiting.length && !this.lost) this.send();
  },
  async post(batch) {
    const now = Date.now();
    const entries = batch.map(({ at, ...entry }) => ({ ...entry, ago: Math.max(now - at, 0) }));
    const answer = await fetch(this.root.dataset.entries, {
      method: "POST",
      keepalive: batch.length < 50,
      headers: { "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({ device: this.device, entries }),
    });
    if (!answer.ok && answer.status !== 422) throw new Error(answer.status);
    if (!answer.ok) return { kept: batch.map((entry) => entry.key), refused: { [batch[0].key]: "The program could not read an entry; it was left out." } };
    return answer.json();
  },
  took(batch, told) {
    this.lost = false;
    const gone = new Set([...told.kept, ...Object.keys(told.refused)]);
    this.waiting = this.waiting.filter((entry) => !gone.has(entry.key));
    this.keep();
    this.heard(told, batch);
  },
  show() {
    const place = document.getElementById("line");
    if (!place) return;
    const count = this.waiting.length;
    place.textContent = this.lost && count ? `No line: ${count} kept here, sent as soon as it is back` : count ? "Saving…" : "Saved";
    place.classList.toggle("line-lost", Boolean(this.lost && count));
  },
};
