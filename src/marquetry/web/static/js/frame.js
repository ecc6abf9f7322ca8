// What belongs to the browser alone: the theme, and whether the sheet of keys is open.
document.addEventListener("alpine:init", () => {
  Alpine.data("frame", () => ({
    toggleTheme() {
      const root = document.documentElement;
      root.dataset.theme = root.dataset.theme === "night" ? "day" : "night";
      localStorage.setItem("theme", root.dataset.theme);
    },
    showKeys() {
      document.getElementById("keys").showModal();
    },
  }));
});
