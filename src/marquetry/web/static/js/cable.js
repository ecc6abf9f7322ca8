// A data cable: readings are typed into the field that has, or last had, the cursor.
const Cable = {
  source: null,
  field: null,
  name: null,
  keys: Promise.resolve(),

  claim() {
    localStorage.setItem("cable", (Cable.name ??= Device.token()));
  },
  take(field) {
    if (!field?.matches?.("input.figure")) return;
    Cable.field = field.id;
    Cable.claim();
    Cable.plugIn();
  },
  plugIn() {
    if (Cable.source) return;
    Cable.source = new EventSource(document.body.dataset.cable);
    Cable.source.addEventListener("keys", (event) => Cable.keyed(event.data));
    Cable.source.addEventListener("error", Cable.unplug); // the program stopped; the next field plugs in again
  },
  unplug() {
    Cable.source?.close();
    Cable.source = null;
  },
  // The next reading waits until the page has taken the one before it.
  keyed(digits) {
    Cable.keys = Cable.keys.then(() => {
      const field = document.getElementById(Cable.field);
      if (!field || localStorage.getItem("cable") !== Cable.name) return undefined;
      field.value = field.name.startsWith("in-") ? `${field.value.trim()} ${digits}`.trim() : digits;
      field.form?.requestSubmit();
      return Exchange.queue;
    });
  },
};

window.addEventListener("DOMContentLoaded", () => {
  if (document.getElementById("caliper")) return;
  window.addEventListener("focus", Cable.claim);
  document.addEventListener("focusin", (event) => Cable.take(event.target));
  Cable.take(document.activeElement);
  document.addEventListener("visibilitychange", () => (document.hidden ? Cable.unplug() : Cable.field && Cable.plugIn()));
  window.addEventListener("pagehide", Cable.unplug);
});
