// Browser state only: what is lit, what is being saved, where the focus is. Every figure comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("bench", () => ({
    queue: Promise.resolve(),

    init() {
      window.addEventListener("popstate", () => this.load(location.search));
      if (document.getElementById("work")) this.await();
      const loads = document.querySelector("[data-load]");
      if (loads) this.load(loads.dataset.load);
      this.waitForCable();
    },

    // --- theme, keys -----------------------------------------------------------------------------
    toggleTheme() {
      const root = document.documentElement;
      root.dataset.theme = root.dataset.theme === "night" ? "day" : "night";
      localStorage.setItem("theme", root.dataset.theme);
    },
    showKeys() {
      document.getElementById("keys").showModal();
    },
    key(event) {
      const typing = event.target.matches("input, select, textarea");
      if (event.key === "Escape" && typing) event.target.blur();
      if (event.target.matches("#tried ~ .row input.figure") && /^Arrow(Up|Down)$/.test(event.key)) this.stepField(event);
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const action = {
        "?": () => this.showKeys(),
        t: () => this.toggleTheme(),
        b: () => (location.href = "/"),
        s: () => (location.href = "/shelf"),
        "/": () => document.getElementById("seek")?.focus(),
        u: () => document.getElementById("undo")?.click(),
        r: () => document.getElementById("redo")?.click(),
        e: () => document.querySelector("#tray .row input:not([type=hidden])")?.focus(),
        f: () => document.getElementById("finder-link")?.click(),
        m: () => document.getElementById("remedies-link")?.click(),
        w: () => document.getElementById("what-if")?.click(),
        j: () => this.step(1),
        k: () => this.step(-1),
        1: () => document.getElementById("view-half")?.click(),
        2: () => document.getElementById("view-whole")?.click(),
        3: () => document.getElementById("view-hands")?.click(),
        4: () => document.getElementById("view-front")?.click(),
        5: () => document.getElementById("view-back")?.click(),
      }[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    },
    step(by) {
      const marks = [...document.querySelectorAll("#rail a")];
      if (!marks.length) return;
      const at = marks.findIndex((mark) => mark.hasAttribute("aria-current"));
      this.choose(marks[(at + by + marks.length) % marks.length]);
    },

    // --- findings light up where they are ------------------------------------------------------------
    point(event) {
      const check = event.target.closest?.("[data-check]")?.dataset.check;
      this.light(check);
    },
    unpoint() {
      this.light(undefined);
    },
    light(check) {
      for (const mark of document.querySelectorAll("#plate .finding"))
        mark.classList.toggle("lit", mark.dataset.check === check);
    },

    // --- edits and other looks, without a full reload ---------------------------------------------------
    follow(event) {
      if (event.target.closest("[data-pick]")) return this.pick(event);
      const link = event.target.closest("a.note, a[data-live]");
      if (link && !event.ctrlKey && !event.metaKey && !event.shiftKey) {
        event.preventDefault();
        this.choose(link);
      } else if (!link) {
        const gap = event.target.closest("#plate .finding");
        const note = gap && document.querySelector(`#plate a.note[data-check="${gap.dataset.check}"]`);
        if (note) this.choose(note);
      }
    },
    choose(link) {
      const query = typeof link === "string" ? link : link.getAttribute("href");
      history.pushState(null, "", query);
      this.load(query);
    },
    load(query) {
      const root = document.getElementById("live");
      if (root) this.enqueue(() => this.exchange(root.dataset.address + query, {}));
    },
    // In a trial the arrows step a value or a tolerance: by a hundredth, with Shift by a tenth.
    stepField(event) {
      const field = event.target;
      const typed = Number(field.value.replace("−", "-").replace(",", "."));
      if (!field.value || Number.isNaN(typed)) return;
      event.preventDefault();
      const by = (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 0.1 : 0.01);
      field.value = (typed + by).toFixed(field.value.includes(".") ? Math.max(2, field.value.split(".")[1].length) : 2);
      this.send(field.form);
    },
    // A slider only fills its field and sends it; while a hand is on it, its own row is left alone.
    gripped: false,
    waiting: false,
    latest: null,
    grip(event) {
      this.gripped = event.target.matches("[data-slide]");
    },
    release() {
      if (!this.gripped) return;
      this.gripped = false;
      // The address is asked for when its turn comes: positions still on their way will have changed it.
      const { address } = document.getElementById("live").dataset;
      this.enqueue(() => this.exchange(address + document.getElementById("tray").dataset.query, {}));
    },
    slide(event) {
      if (!event.target.matches("[data-slide]")) return;
      document.getElementById(event.target.dataset.slide).value = event.target.value;
      // Of many positions passed while one is computed only the last is sent.
      this.latest = this.filled(event.target.form);
      if (this.waiting) return;
      this.waiting = true;
      this.enqueue(() => {
        this.waiting = false;
        return this.post(this.latest);
      });
    },
    save(event) {
      if (event.target.matches("[data-slide]")) return;
      const form = event.target.closest("form[data-live]");
      if (form && !form.hasAttribute("data-explicit")) this.send(form);
    },
    submit(event) {
      const look = event.target.closest("form[data-look]");
      if (look) {
        if (event.submitter?.hasAttribute("data-plain")) return;
        event.preventDefault();
        const query = this.looked(look);
        for (const field of look.elements) this.settle(field);
        if (look.elements.next) look.elements.next.value = "";
        this.choose(query);
        return;
      }
      const form = event.target.closest("form[data-live]");
      if (!form) return;
      event.preventDefault();
      if (!document.getElementById("live")) return; // a pattern, not a watch
      // Enter in a changed field raises `change` first; what it sends needs no second sending.
      const offered = event.submitter?.name ? event.submitter : null;
      if (form.dataset.path && !offered && !this.differs(form)) return;
      this.send(form, offered);
    },
    looked(form) {
      const chosen = [...new FormData(form)].filter(([, value]) => value !== "");
      return `?${new URLSearchParams(chosen)}`;
    },
    // Choosing from a list is a look of its own; the shelf's search follows every letter.
    relook(event) {
      const form = event.target.form;
      if (!form?.hasAttribute("data-look") || !event.target.matches("select, [type=checkbox]")) return;
      if (form.hasAttribute("data-quick")) location.href = this.looked(form);
      else this.choose(this.looked(form));
    },
    soon: 0,
    quick(event) {
      const form = event.target.form;
      if (!event.target.matches("input")) return;
      clearTimeout(this.soon);
      this.soon = setTimeout(() => {
        const query = this.looked(form);
        history.replaceState(null, "", query);
        this.load(query);
      }, 120);
    },
    // The drawing of a part shows the dimension whose field has the focus.
    showDimension(event) {
      const path = event.target.closest(".row-quantity")?.dataset.path;
      if (!path || document.getElementById("part-drawing").dataset.at === path) return;
      document.getElementById("part-drawing").dataset.at = path;
      this.load(`?at=${path}`);
    },
    differs(form) {
      return [...form.elements].some((field) =>
        field.tagName === "SELECT"
          ? [...field.options].some((option) => option.selected !== option.defaultSelected)
          : field.value !== field.defaultValue,
      );
    },
    send(form, button = null) {
      const filled = this.filled(form, button);
      for (const field of form.elements) this.settle(field);
      this.enqueue(() => this.post(filled));
    },
    filled(form, button = null) {
      return { path: form.action.split("?")[0], body: new FormData(form, button) };
    },
    post({ path, body }) {
      const status = document.getElementById("status");
      if (status) body.set("version", status.dataset.version);
      const address = path + (document.getElementById("tray")?.dataset.query ?? location.search);
      return this.exchange(address, { method: "POST", body });
    },
    settle(field) {
      if (field.tagName === "INPUT") field.defaultValue = field.value;
    },
    // One request after the other: each names the version that the one before it made.
    pending: 0,
    enqueue(work) {
      this.pending += 1;
      this.showPending();
      this.queue = this.queue
        .then(work)
        .catch(() => this.tell("The program does not answer. What you typed is not saved."))
        .then(() => {
          this.pending -= 1;
          this.showPending();
        });
    },
    showPending() {
      document.getElementById("status")?.classList.toggle("saving", this.pending > 0);
    },
    async exchange(address, options) {
      const answer = await fetch(address, { ...options, headers: { "Marquetry-Fragment": "1", Accept: "text/html" } });
      this.swap(await answer.text());
    },
    // Work in progress is asked after until it is done; then the page it leads to opens.
    await() {
      const work = document.getElementById("work");
      if (work.dataset.goesTo) return location.replace(work.dataset.goesTo);
      if (work.hasAttribute("data-over")) return;
      setTimeout(() => this.enqueue(() => this.exchange(location.pathname, {}).then(() => this.await())), 250);
    },
    tell(words) {
      const notice = document.getElementById("notice");
      notice.className = "notice";
      notice.textContent = words;
    },
    // Puts each part of the answer in its place, and the focus and half-typed text back where they were.
    swap(text) {
      const fresh = new DOMParser().parseFromString(text, "text/html");
      const active = document.activeElement;
      const typed = active?.tagName === "INPUT" && active.type !== "range" && active.value !== active.defaultValue ? active.value : null;
      const focus = { id: active?.id, check: active?.closest?.("a.note")?.dataset.check };
      const query = fresh.querySelector("#tray")?.dataset.query;
      for (const part of fresh.querySelectorAll("[data-swap]")) if (!(this.gripped || this.waiting) || part.id !== "tray") this.put(part);
      if (query) {
        document.getElementById("tray").dataset.query = query;
        history.replaceState(null, "", query);
      }
      this.showPending();
      this.refocus(focus, typed);
    },
    put(part) {
      const old = document.getElementById(part.id);
      if (!old) return;
      if (old.open) part.open = true;
      for (const inner of old.querySelectorAll("details[open][id]")) part.querySelector(`#${inner.id}`)?.setAttribute("open", "");
      old.replaceWith(part);
    },
    refocus(focus, typed) {
      const target =
        (focus.id && document.getElementById(focus.id)) ||
        (focus.check && document.querySelector(`#plate a.note[data-check="${focus.check}"]`));
      if (!target || target === document.activeElement) return;
      target.focus({ preventScroll: true });
      if (typed === null) return this.readyFor(target);
      target.value = typed;
    },

    // --- a point clicked in a photograph goes into the chosen field, in the picture's own pixels -----------------
    pick(event) {
      const picture = event.target.closest("[data-pick]");
      const form = picture.closest("form");
      const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(picture.getScreenCTM().inverse());
      form.elements[form.elements.pick.value].value = `${at.x.toFixed(1)}; ${at.y.toFixed(1)}`;
      form.requestSubmit(form.querySelector("[data-compute]"));
    },

    // --- a data cable: readings typed into the field that has, or last had, the cursor ----------------------
    cable: null,
    field: null,
    waitForCable() {
      if (document.getElementById("caliper")) return;
      const claim = () => localStorage.setItem("cable", (this.name ??= crypto.randomUUID()));
      window.addEventListener("focus", claim);
      const take = (field) => {
        if (!field?.matches("input.figure")) return;
        this.field = field.id;
        claim();
        this.plugIn();
      };
      document.addEventListener("focusin", (event) => take(event.target));
      take(document.activeElement);
      document.addEventListener("visibilitychange", () => (document.hidden ? this.unplug() : this.field && this.plugIn()));
      window.addEventListener("pagehide", () => this.unplug());
    },
    plugIn() {
      if (this.cable) return;
      this.cable = new EventSource("/caliper/stream");
      this.cable.addEventListener("keys", (event) => this.keyed(event.data));
      this.cable.addEventListener("error", () => this.unplug()); // the program stopped; the next field plugs in again
    },
    unplug() {
      this.cable?.close();
      this.cable = null;
    },
    // The next reading waits until the page has taken the one before it.
    keys: Promise.resolve(),
    keyed(digits) {
      this.keys = this.keys.then(() => {
        const field = document.getElementById(this.field);
        if (!field || localStorage.getItem("cable") !== this.name) return;
        field.value = field.name.startsWith("in-") ? `${field.value.trim()} ${digits}`.trim() : digits;
        field.form?.requestSubmit();
        return this.queue;
      });
    },

    // A worksheet's field takes several readings: the next one goes behind those that are there.
    readyFor(field) {
      if (!field.name?.startsWith("in-") || !field.value) return field.select?.();
      field.value += " ";
      field.setSelectionRange(field.value.length, field.value.length);
    },

    // --- a file too large is told before it is sent ------------------------------------------------------
    weigh(event) {
      const form = event.target;
      const file = form.querySelector("input[type=file]").files[0];
      const most = Number(form.dataset.most);
      if (!file || file.size <= most) return;
      event.preventDefault();
      const told = form.querySelector(".told");
      told.textContent = `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; ${form.dataset.what ?? "a build sheet"} has at most ${most / 1e6} MB. Choose another file.`;
      form.querySelector("input[type=file]").setAttribute("aria-invalid", "true");
    },
  }));
});
