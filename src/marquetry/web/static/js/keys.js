// Keys: an element that has one carries it as `data-key`; a press clicks it, or puts the cursor into it.
document.addEventListener("keydown", (event) => {
  const typing = event.target.matches?.("input:not([type=radio], [type=checkbox]), select, textarea");
  if (event.key === "Escape" && typing) event.target.blur();
  // What has the focus is pressed by space and Enter itself.
  const presses = [" ", "Enter"].includes(event.key) && event.target.matches?.("a, button, input, summary");
  if (typing || presses || event.ctrlKey || event.metaKey || event.altKey) return;
  const target = [...document.querySelectorAll("[data-key]")].find((element) => element.dataset.key === event.key);
  if (!target) return;
  event.preventDefault();
  if (target.matches("input, select, textarea")) target.focus();
  else if (target.matches("[data-focus-within]")) target.querySelector("input:not([type=hidden])")?.focus();
  else target.click();
});
