// A dry test as it grows: lines from the chamber, or from the stand-in, are laid before the server again and again.
const Chamber = {
  lines: [],
  source: null,
  asking: false,

  begin() {
    const form = (Chamber.form = document.getElementById("dry"));
    if (!form) return;
    form.querySelector(".water-live").hidden = false;
    Chamber.go = form.querySelector("[data-begin]");
    Chamber.halt = form.querySelector("[data-end]");
    Chamber.words = form.querySelector(".water-live [role=status]");
    Chamber.go.addEventListener("click", Chamber.start);
    Chamber.halt.addEventListener("click", () => Chamber.stop());
    form.elements.source.addEventListener("change", Chamber.choose);
    Chamber.choose();
  },
  choose() {
    const simulated = Chamber.form.elements.source.value === "stand-in";
    for (const name of ["case", "bar"]) Chamber.form.elements[name].closest("label").hidden = !simulated;
  },
  start() {
    const { source, bar, means } = Chamber.form.elements;
    const simulated = source.value === "stand-in";
    const asked = new URLSearchParams({ case: Chamber.form.elements.case.value, bar: bar.value.replace(",", ".") });
    Chamber.lines = [];
    Chamber.form.elements.series.value = "";
    Chamber.source = new EventSource(simulated ? `${Chamber.form.dataset.standIn}?${asked}` : Chamber.form.dataset.line);
    Chamber.source.addEventListener("keys", (event) => Chamber.take(event.data));
    Chamber.source.addEventListener("end", () => Chamber.stop());
    Chamber.source.addEventListener("error", () => Chamber.stop("The line is gone. Check pressure and cable, and begin again."));
    if (simulated && !means.value) means.value = "simulated chamber";
    Chamber.go.hidden = true;
    Chamber.halt.hidden = false;
    Chamber.words.textContent = simulated ? "Pressure is put on …" : "Waiting for the chamber's first line …";
  },
  take(line) {
    Chamber.lines.push(line);
    Chamber.form.elements.series.value = Chamber.lines.join("\n");
    Chamber.words.textContent = `${Chamber.lines.length} readings`;
    Chamber.look();
  },
  // One look at a time; the last line is looked at in any case.
  async look() {
    if (Chamber.asking) return;
    Chamber.asking = true;
    const seen = Chamber.lines.length;
    const body = new FormData();
    body.set("series", Chamber.form.elements.series.value);
    const answer = await fetch(Chamber.form.dataset.lookAt, { method: "POST", body, headers: { "Marquetry-Fragment": "1", Accept: "text/html" } });
    const fresh = document.createElement("template");
    fresh.innerHTML = await answer.text();
    const part = fresh.content.getElementById("held");
    if (part) document.getElementById("held").replaceWith(part);
    setTimeout(() => {
      Chamber.asking = false;
      if (Chamber.lines.length > seen) Chamber.look();
    }, 400);
  },
  stop(words = "Done. Keep this test, or begin again; nothing is kept until then.") {
    Chamber.source?.close();
    Chamber.source = null;
    Chamber.go.hidden = false;
    Chamber.halt.hidden = true;
    Chamber.words.textContent = words;
  },
};
window.addEventListener("DOMContentLoaded", Chamber.begin);
window.addEventListener("pagehide", () => Chamber.source?.close());
