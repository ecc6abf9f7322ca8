// The clock of this machine, to read a watch by; what is entered is stamped by the server.
window.addEventListener("DOMContentLoaded", () => {
  const clock = document.querySelector("[data-clock]");
  if (!clock) return;
  const show = () => {
    clock.textContent = new Date().toTimeString().slice(0, 8);
  };
  show();
  setInterval(show, 200);
});
