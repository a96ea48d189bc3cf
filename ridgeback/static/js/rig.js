/* The search for a rig: its lines as they come, the answer put in place. Without scripts the form itself does it. */
"use strict";

(() => {
  async function search(form) {
    const bar = document.getElementById("rig-progress");
    const said = document.getElementById("rig-said");
    bar.hidden = false;
    bar.value = 0;
    said.textContent = said.dataset.tried;
    try {
      const answer = await fetch(form.dataset.search);
      if (!answer.ok) throw new Error("search");
      const reader = answer.body.pipeThrough(new TextDecoderStream()).getReader();
      let rest = "";
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        const lines = (rest + value).split("\n");
        rest = lines.pop();
        for (const line of lines) {
          const step = JSON.parse(line);
          if (step.html) {
            document.getElementById("rigs").innerHTML = step.html;
          } else {
            bar.value = (100 * step.done) / step.of;
          }
        }
      }
      said.textContent = "";
    } catch {
      said.textContent = said.dataset.failed;
    }
    bar.hidden = true;
  }

  document.addEventListener("submit", (event) => {
    if (event.target.id !== "rig-form") return;
    event.preventDefault();
    search(event.target);
  });
})();
