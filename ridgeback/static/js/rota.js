// The week's turns are dragged to another day; what that would do is shown before it is done.
(() => {
  const table = () => document.querySelector(".week-table");
  let held = null;

  // A narrow screen begins at today, beside the habitats' names.
  const today = table()?.querySelector("thead .today");
  const around = table()?.closest(".scroll");
  if (today && around && around.scrollWidth > around.clientWidth) {
    around.scrollLeft = today.offsetLeft - table().querySelector("thead th").offsetWidth;
  }

  document.addEventListener("dragstart", (event) => {
    const chip = event.target.closest?.(".week-table [draggable=true]");
    if (!chip) return;
    held = chip;
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", chip.dataset.job);
    chip.classList.add("held");
  });

  const cellUnder = (event) => {
    const cell = event.target.closest?.(".week-table td[data-day]");
    return cell && held && cell.parentElement === held.closest("tr") && !cell.classList.contains("past") ? cell : null;
  };

  document.addEventListener("dragover", (event) => {
    const cell = cellUnder(event);
    table()?.querySelectorAll("td.over").forEach((one) => one !== cell && one.classList.remove("over"));
    if (!cell) return;
    event.preventDefault();
    cell.classList.add("over");
  });

  document.addEventListener("drop", (event) => {
    const cell = cellUnder(event);
    if (!cell) return;
    event.preventDefault();
    const { habitat, job, planned } = held.dataset;
    if (cell.dataset.day !== planned) {
      const back = table().dataset.back;
      const asked = new URLSearchParams({ habitat, job, planned, to: cell.dataset.day, back });
      window.htmx.ajax("GET", `${table().dataset.move}?${asked}`, { target: "#moving", swap: "innerHTML" });
    }
  });

  document.addEventListener("dragend", () => {
    held?.classList.remove("held");
    table()?.querySelectorAll("td.over").forEach((one) => one.classList.remove("over"));
    held = null;
  });
})();
