/* A new habitat: the answer beside the form while one types, examples by one press, and word that the plan is being worked out.
   Without scripts a name is looked up when the form is sent; with them the species' own field finds it (choosers.js). */
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

  function told(form) {
    return new URLSearchParams([...new FormData(form)].filter(([name]) => !["csrfmiddlewaretoken", "once"].includes(name)));
  }

  function begin() {
    const form = document.getElementById("new-habitat");
    if (!form) return;
    const beside = document.getElementById("new-answer");
    document.getElementById("id_find").closest(".field").hidden = true;
    let later = 0;
    const answer = () => fill(beside, `${beside.dataset.address}?${told(form)}`);
    const soon = (wait) => {
      clearTimeout(later);
      later = setTimeout(answer, wait);
    };
    form.addEventListener("input", () => soon(400));
    form.addEventListener("change", () => soon(150));
    for (const example of form.querySelectorAll("[data-example]")) {
      example.addEventListener("click", () => {
        for (const [name, value] of Object.entries(JSON.parse(example.dataset.example))) {
          const field = form.elements[name];
          field.value = value;
          field.dispatchEvent(new Event("change", { bubbles: true }));
        }
        form.querySelector("[type=submit]").focus();
      });
    }
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
