/* A new habitat: species found by any name, the answer beside the form while one types, and word that the plan is being worked out.
   Without scripts a name is looked up when the form is sent. */
"use strict";

(() => {
  const waiting = new Map();

  /* Put what an address answers into an element; a later question takes the place of one still open. */
  async function fill(element, address) {
    waiting.get(element)?.abort();
    const asked = new AbortController();
    waiting.set(element, asked);
    try {
      const answer = await fetch(address, { signal: asked.signal });
      if (answer.ok) element.innerHTML = await answer.text();
      return answer.ok;
    } catch {
      return false; // asked again meanwhile, or the page is left
    }
  }

  function told(form, names) {
    const fields = new FormData(form);
    return new URLSearchParams([...fields].filter(([name]) => (names ? names.includes(name) : !["csrfmiddlewaretoken", "once"].includes(name))));
  }

  function begin() {
    const form = document.getElementById("new-habitat");
    if (!form) return;
    const beside = document.getElementById("new-answer");
    const species = document.getElementById("id_species");
    const find = document.getElementById("id_find");
    let later = 0;
    const answer = () => fill(beside, `${beside.dataset.address}?${told(form)}`);
    const soon = (wait) => {
      clearTimeout(later);
      later = setTimeout(answer, wait);
    };
    form.addEventListener("input", (event) => {
      if (event.target !== find) {
        soon(400);
        return;
      }
      clearTimeout(later);
      later = setTimeout(async () => {
        if (await fill(species, `${find.dataset.address}?${told(form, ["find"])}`)) answer();
      }, 200);
    });
    form.addEventListener("change", (event) => event.target !== find && soon(150));
    form.addEventListener("submit", () => {
      clearTimeout(later);
      waiting.forEach((asked) => asked.abort());
      form.querySelector(".working").hidden = false;
    });
    // Back out of a plan that was made: nothing is being worked out any more.
    window.addEventListener("pageshow", () => {
      form.querySelector(".working").hidden = true;
    });
    answer();
  }

  if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", begin);
  else begin();
})();
