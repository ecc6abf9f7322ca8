// Writes the client's ticks and words as the answer's text, ready to be copied and sent back.
const form = document.getElementById("answer");
const out = document.getElementById("text");
const plain = (words) => words.replace(/\s+/g, " ").trim();
const write = () => {
  const lines = [`Answer to ${form.dataset.of}`];
  for (const row of form.querySelectorAll("[data-topic]")) {
    const words = plain(row.querySelector("[name^=rather]").value);
    const agreed = row.querySelector("[value=agreed]");
    if (agreed?.checked) lines.push(`${row.dataset.topic}: agreed${words ? `, ${words}` : ""}`);
    else if (words) lines.push(`${row.dataset.topic}: rather ${words}`);
  }
  const choice = form.querySelector("[name=choice]:checked");
  if (choice) lines.push(`Choice: ${choice.value}`);
  const words = plain(form.elements.words.value);
  if (words) lines.push(`Words: ${words}`);
  out.value = `${lines.join("\n")}\n`;
};
form.addEventListener("input", write);
document.getElementById("copy").addEventListener("click", () => {
  write();
  out.select();
  document.execCommand("copy");
});
write();
