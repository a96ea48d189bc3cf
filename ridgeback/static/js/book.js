// On a species' sheet one key, or one button, opens or closes where every number comes from.
function turnBases() {
  const sheet = document.querySelector("[data-bases]");
  if (!sheet) return;
  const open = sheet.classList.toggle("bases-open");
  sheet.querySelectorAll("details.leaf").forEach((leaf) => {
    leaf.open = open;
  });
  sheet.querySelectorAll("[data-turn-bases]").forEach((button) => button.setAttribute("aria-pressed", String(open)));
}

document.addEventListener("keydown", (event) => {
  const typing = event.target.closest("input, select, textarea, [contenteditable]");
  if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key.toLowerCase() !== "b") return;
  turnBases();
});

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-turn-bases]")) turnBases();
});
