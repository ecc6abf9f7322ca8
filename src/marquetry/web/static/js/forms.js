// Forms that are saved as they are left, and forms that only choose what is looked at.
const Forms = {
  send(form, button = null) {
    const filled = Exchange.filled(form, button);
    this.settle(form);
    Exchange.enqueue(() => Exchange.post(filled));
  },
  settle(form) {
    for (const field of form.elements) if (field.tagName === "INPUT") field.defaultValue = field.value;
  },
  differs(form) {
    return [...form.elements].some((field) =>
      field.tagName === "SELECT"
        ? [...field.options].some((option) => option.selected !== option.defaultSelected)
        : field.value !== field.defaultValue,
    );
  },
  looked(form) {
    const chosen = [...new FormData(form)].filter(([, value]) => value !== "");
    return `?${new URLSearchParams(chosen)}`;
  },
  look(form) {
    const query = this.looked(form);
    this.settle(form);
    if (form.elements.next) form.elements.next.value = "";
    Links.choose(query);
  },
};

document.addEventListener("change", (event) => {
  if (event.target.matches("[data-slide]")) return;
  const look = event.target.form?.closest("form[data-look]");
  if (look && event.target.matches("select, [type=checkbox]")) {
    if (look.hasAttribute("data-quick")) location.href = Forms.looked(look);
    else Links.choose(Forms.looked(look));
    return;
  }
  const form = event.target.closest("form[data-kept]");
  if (form && document.getElementById("live")) Forms.send(form);
});

// A figure typed in place of an assumed or a seller's one was measured, unless the builder says otherwise.
document.addEventListener("input", (event) => {
  const { source, tol } = event.target.form?.elements ?? {};
  if (event.target.name !== "value" || !["assumed", "listed"].includes(source?.value) || document.getElementById("tried")) return;
  source.value = "measured";
  if (tol) tol.value = "";
});

document.addEventListener("submit", (event) => {
  const look = event.target.closest("form[data-look]");
  if (look) {
    if (event.submitter?.hasAttribute("data-plain")) return;
    event.preventDefault();
    Forms.look(look);
    return;
  }
  const form = event.target.closest("form[data-live], form[data-kept]");
  if (!form) return;
  event.preventDefault();
  if (!document.getElementById("live")) return; // a pattern, not a watch
  // Enter in a changed field raises `change` first; what it sends needs no second sending.
  const offered = event.submitter?.name ? event.submitter : null;
  if (form.hasAttribute("data-kept") && !offered && !Forms.differs(form)) return;
  Forms.send(form, offered);
});

// In a trial the arrows step a value or a tolerance; how far, and from what, the server says.
document.addEventListener("keydown", (event) => {
  const field = event.target;
  if (!/^Arrow(Up|Down)$/.test(event.key) || !field.matches?.("#tried ~ .row input.figure") || !field.value) return;
  event.preventDefault();
  const filled = Exchange.filled(field.form);
  const way = event.key === "ArrowUp" ? "up" : "down";
  filled.body.set("step", `${field.name}-${way}${event.shiftKey ? "-far" : ""}`);
  field.defaultValue = field.value;
  Exchange.enqueue(() => Exchange.post(filled));
});
