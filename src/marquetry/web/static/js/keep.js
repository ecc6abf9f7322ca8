/* What is typed in one form is not lost when another is sent: both stand on a page that comes back anew.
   Kept for this window alone, until the page is shown again. */
(() => {
  const PLACE = `typed ${location.pathname}`;
  const fields = (form) => [...form.elements].filter((field) => field.name && field.type !== "hidden" && field.type !== "file");
  const value = (field) => (field.type === "checkbox" ? field.checked : field.value);
  const first = (field) => {
    if (field.type === "checkbox") return field.defaultChecked;
    if (field.tagName !== "SELECT") return field.defaultValue;
    const chosen = [...field.options].find((option) => option.defaultSelected) ?? field.options[0];
    return chosen ? chosen.value : "";
  };
  /* A blank that was told of has another version in its box, and is not chosen again. */
  const name = (field) => (field.type === "checkbox" ? `${field.name} ${field.value}` : field.name);

  const keep = (sent) => {
    const typed = {};
    for (const form of document.querySelectorAll("form[data-keep]")) {
      if (form === sent) continue;
      const changed = fields(form).filter((field) => field.type !== "submit" && value(field) !== first(field));
      if (changed.length) typed[form.action] = changed.map((field) => [name(field), value(field)]);
    }
    sessionStorage.setItem(PLACE, JSON.stringify(typed));
  };

  const bring_back = () => {
    const typed = JSON.parse(sessionStorage.getItem(PLACE) ?? "{}");
    sessionStorage.removeItem(PLACE);
    for (const form of document.querySelectorAll("form[data-keep]")) {
      for (const [known, was] of typed[form.action] ?? []) {
        const field = fields(form).find((each) => name(each) === known);
        if (!field) continue;
        if (field.type === "checkbox") field.checked = was;
        else field.value = was;
      }
    }
  };

  document.addEventListener("submit", (event) => keep(event.target));
  bring_back();
})();
