// The line to the program: entries wait here until it says they are on disk; a lost line keeps them and sends later.
const Line = {
  waiting: [],
  sending: false,
  lost: "",
  pause: 500,
  heard: () => {},

  begin(root) {
    this.root = root;
    this.store = `bench-${root.dataset.watch}-`;
    this.device = localStorage.getItem("device") ?? Device.token();
    localStorage.setItem("device", this.device);
    const names = Object.keys(localStorage).filter((name) => name.startsWith(this.store));
    this.waiting = names.map((name) => JSON.parse(localStorage.getItem(name))).sort((a, b) => a.at - b.at);
    window.addEventListener("online", () => this.send());
    this.show();
    if (this.waiting.length) this.send();
  },
  // On this device's own disk before anything is shown, each under its own name, so that two pages lose none of the other's.
  add(entry) {
    const made = { key: Device.token(), at: Date.now(), ...entry };
    localStorage.setItem(this.store + made.key, JSON.stringify(made));
    this.waiting.push(made);
    this.show();
    this.send();
    return made;
  },
  async send() {
    if (this.sending || !this.waiting.length) return;
    this.sending = true;
    const batch = this.waiting.slice(0, 200);
    try {
      this.took(batch, await this.post(batch));
      this.pause = 500;
    } catch (fault) {
      this.lost = fault.message === "401" ? "Come in by the door again" : "No line";
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
    // What the program cannot take now stays here; an entry that it will never take is told by its key.
    if (!answer.ok) throw new Error(answer.status);
    return answer.json();
  },
  took(batch, told) {
    this.lost = "";
    const gone = new Set([...told.kept, ...Object.keys(told.refused)]);
    this.waiting = this.waiting.filter((entry) => !gone.has(entry.key));
    for (const key of gone) localStorage.removeItem(this.store + key);
    this.show();
    this.heard(told, batch);
  },
  show() {
    const place = document.getElementById("line");
    if (!place) return;
    const count = this.waiting.length;
    place.textContent = this.lost && count ? `${this.lost}: ${count} kept here, sent as soon as it is back` : count ? "Saving…" : "Saved";
    place.classList.toggle("line-lost", Boolean(this.lost && count));
  },
};
