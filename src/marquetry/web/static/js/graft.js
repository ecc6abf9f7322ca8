// Puts a fresh drawing over the one that is there, touching only what differs: of a plate's three hundred
// elements a slide moves a few dozen, and what is left alone is neither laid out nor painted again.
// Only for parts without fields: what is typed into a field is not in its attributes.
const Graft = {
  onto(old, fresh) {
    if (old.isEqualNode(fresh)) return undefined;
    if (old.nodeType !== fresh.nodeType || old.nodeName !== fresh.nodeName) return old.replaceWith(fresh);
    if (old.nodeType === Node.TEXT_NODE) return void (old.data = fresh.data);
    this.attributes(old, fresh);
    const held = [...old.childNodes];
    const wanted = [...fresh.childNodes];
    for (const extra of held.slice(wanted.length)) extra.remove();
    wanted.forEach((node, index) => (index < held.length ? this.onto(held[index], node) : old.append(node)));
    return undefined;
  },
  // A fold that the reader opened stays open.
  attributes(old, fresh) {
    for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
    for (const { name } of [...old.attributes]) if (name !== "open" && !fresh.hasAttribute(name)) old.removeAttribute(name);
  },
};
