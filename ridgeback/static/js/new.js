/* A new habitat: while the first plan is worked out, that is said. Without scripts the page just loads. */
"use strict";

(() => {
  document.addEventListener("submit", (event) => {
    const form = event.target.closest("#new-habitat");
    if (!form) return;
    form.querySelector(".working").hidden = false;
  });
  // Back out of a plan that was made: nothing is being worked out any more.
  window.addEventListener("pageshow", () => {
    const working = document.querySelector("#new-habitat .working");
    if (working) working.hidden = true;
  });
})();
