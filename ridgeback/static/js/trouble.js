/* Say when something was not saved, and take it back when the next thing is. */
"use strict";

(() => {
  function trouble(kind) {
    const note = document.getElementById("trouble");
    note.hidden = !kind;
    note.textContent = kind ? note.dataset[kind] : "";
  }
  for (const kind of ["htmx:sendError", "htmx:timeout"]) document.addEventListener(kind, () => trouble("away"));
  document.addEventListener("htmx:responseError", () => trouble("error"));
  document.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.xhr.status < 400) trouble("");
  });
})();
