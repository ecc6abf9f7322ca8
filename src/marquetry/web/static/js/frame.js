// What belongs to the browser alone: the theme, and whether the sheet of keys is open.
// A name that no other device makes; over plain http on a network a browser has no randomUUID.
const Device = {
  token: () => Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join(""),
};
document.addEventListener("alpine:init", () => {
  Alpine.data("frame", () => ({
    toggleTheme() {
      const root = document.documentElement;
      root.dataset.theme = root.dataset.theme === "night" ? "day" : "night";
      localStorage.setItem("theme", root.dataset.theme);
    },
    // Asked for once, when it is first opened: it would weigh on every page.
    async showKeys() {
      const keys = document.getElementById("keys");
      if (!keys.firstElementChild) keys.innerHTML = await (await fetch(keys.dataset.from)).text();
      keys.showModal();
    },
  }));
});
