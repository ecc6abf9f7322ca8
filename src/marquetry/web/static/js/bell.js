// Timers of the bench: on every page a strip of what sets, which rings when it has run down.
const Bell = {
  timers: [],
  rung: new Set(),
  sounds: true,

  async look() {
    try {
      const told = await (await fetch("/timers")).json();
      const now = Date.now();
      this.sounds = told.sounds;
      this.timers = told.timers.map((timer) => ({ ...timer, at: now + timer.left }));
      this.show();
    } catch {
      // The program stopped; the strip stays as it is.
    }
  },
  show() {
    let strip = document.getElementById("bell");
    if (!this.timers.length) return void strip?.remove();
    if (!strip) {
      strip = Object.assign(document.createElement("div"), { id: "bell", className: "bell", role: "status" });
      document.querySelector(".stringing").after(strip);
    }
    strip.replaceChildren(...this.timers.map((timer) => this.row(timer)));
    this.tick();
  },
  row(timer) {
    const row = document.createElement("p");
    const link = Object.assign(document.createElement("a"), { href: timer.page, textContent: `${timer.name}: ${timer.words}` });
    const left = Object.assign(document.createElement("b"), { className: "figure" });
    left.dataset.timer = timer.id;
    const button = Object.assign(document.createElement("button"), { type: "button", className: "quiet-button", textContent: "Heard" });
    button.dataset.key = "q";
    button.addEventListener("click", () => this.heard(timer));
    row.append(link, " ", left, " ", button);
    return row;
  },
  async heard(timer) {
    const early = timer.at > Date.now();
    if (early && !confirm(`${timer.words}: not yet. Go on before it has set?`)) return;
    const body = new URLSearchParams({ step: timer.step, words: early ? "gone on before it had set" : "" });
    await fetch(timer.quiet, { method: "POST", body });
    this.look();
  },
  tick() {
    for (const timer of this.timers) {
      const place = document.querySelector(`[data-timer="${timer.id}"]`);
      const seconds = Math.ceil((timer.at - Date.now()) / 1000);
      if (!place) continue;
      place.textContent = seconds > 0 ? this.clock(seconds) : "has set";
      place.parentElement.classList.toggle("bell-rings", seconds <= 0);
      if (seconds <= 0 && !this.rung.has(timer.id)) this.ring(timer);
    }
  },
  clock(seconds) {
    const minutes = Math.floor(seconds / 60);
    const two = (number) => String(number).padStart(2, "0");
    return minutes < 60 ? `${minutes}:${two(seconds % 60)}` : `${Math.floor(minutes / 60)} h ${two(minutes % 60)}`;
  },
  // Two soft strokes; a browser lets a page sound only once it was touched.
  ring(timer) {
    this.rung.add(timer.id);
    document.dispatchEvent(new Event("rang"));
    if (!this.sounds || !navigator.userActivation?.hasBeenActive) return;
    const audio = new AudioContext();
    for (const [begin, pitch] of [[0, 660], [0.45, 880]]) {
      const tone = new OscillatorNode(audio, { frequency: pitch });
      const gain = new GainNode(audio, { gain: 0.0001 });
      gain.gain.setValueAtTime(0.2, audio.currentTime + begin);
      gain.gain.exponentialRampToValueAtTime(0.0001, audio.currentTime + begin + 0.4);
      tone.connect(gain).connect(audio.destination);
      tone.start(audio.currentTime + begin);
      tone.stop(audio.currentTime + begin + 0.45);
    }
  },
};
window.addEventListener("DOMContentLoaded", () => {
  Bell.look();
  setInterval(() => Bell.tick(), 1000);
  setInterval(() => document.hidden || Bell.look(), 15000);
  document.addEventListener("visibilitychange", () => document.hidden || Bell.look());
});
