// What belongs to the browser alone: the theme, and whether the sheet of keys is open.
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
