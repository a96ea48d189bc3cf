/* Long lists of choices become fields one types in: found by any part of their names, a little misspelt too. The list itself stays
   the form's field; without scripts it is what it was. */
"use strict";

(() => {
  const LONG = 10;
  const MOST = 40;
  const here = document.currentScript;
  const WORDS = here.dataset; // what is said aloud, in the reader's language
  const done = new WeakSet(); // htmx gives a swapped element its old attributes back for a moment: none of them is a mark to go by
  let loading = null;

  function load() {
    const script = (address) =>
      new Promise((done, failed) => {
        const element = document.createElement("script");
        element.src = address;
        element.onload = done;
        element.onerror = failed;
        document.head.append(element);
      });
    loading = loading || Promise.all([script(WORDS.autocomplete), script(WORDS.fuse)]);
    return loading;
  }

  const labelOf = (option) => option.textContent.trim().replace(/\s+/g, " ");

  /* The options of a list that fit what is typed; all of them for nothing, or for what is chosen now. */
  function local(select) {
    return (query, give) => {
      const options = [...select.options].map((option) => ({ value: option.value, label: labelOf(option), more: option.dataset.names || "" }));
      const chosen = select.selectedOptions[0];
      if (!query.trim() || (chosen && labelOf(chosen) === query)) {
        // What is chosen comes first: whoever leaves the field without typing chooses what stands there.
        give([...options.filter((one) => chosen && one.value === chosen.value), ...options.filter((one) => !chosen || one.value !== chosen.value)]);
        return;
      }
      const fuse = new Fuse(options, { keys: [{ name: "label", weight: 2 }, "more"], threshold: 0.4, ignoreLocation: true, minMatchCharLength: 1 });
      give(fuse.search(query.trim(), { limit: MOST }).map((found) => found.item));
    };
  }

  /* Species know more names than their list shows: the server finds them. */
  function asked(select) {
    const fallback = local(select);
    let waiting = null;
    return (query, give) => {
      const chosen = select.selectedOptions[0];
      if (!query.trim() || (chosen && labelOf(chosen) === query)) {
        fallback(query, give);
        return;
      }
      if (waiting) waiting.abort();
      waiting = new AbortController();
      fetch(`${select.dataset.finds}?${new URLSearchParams({ find: query })}`, { signal: waiting.signal })
        .then((answer) => (answer.ok ? answer.text() : Promise.reject(new Error(answer.status))))
        .then((text) => {
          const found = new DOMParser().parseFromString(`<select>${text}</select>`, "text/html").querySelectorAll("option");
          const there = new Set([...select.options].map((option) => option.value));
          give([...found].filter((option) => option.value && there.has(option.value)).map((option) => ({ value: option.value, label: labelOf(option) })));
        })
        .catch((error) => error.name !== "AbortError" && fallback(query, give));
    };
  }

  function nameOf(select) {
    const label = select.labels && select.labels[0];
    if (!label) return select.getAttribute("aria-label") || "";
    const words = label.cloneNode(true);
    words.querySelectorAll("select").forEach((one) => one.remove());
    return words.textContent.trim().replace(/\s+/g, " ");
  }

  function enhance(select) {
    const id = select.id || `chooser-${Math.random().toString(36).slice(2)}`;
    const focused = document.activeElement === select || document.activeElement.id === `${id}-typed`;
    const place = document.createElement("div");
    place.className = "chooser";
    const name = nameOf(select);
    const told = [select.getAttribute("aria-describedby"), select.getAttribute("aria-invalid")];
    const labels = [...document.querySelectorAll(`label[for="${CSS.escape(id)}"], label[for="${CSS.escape(id)}-typed"]`)];
    // A list that stands in a line of words keeps its place and width there: nothing around it jumps.
    const wide = select.getBoundingClientRect().width;
    if (wide && wide < select.parentElement.clientWidth - 1 && getComputedStyle(select.parentElement).display.match(/^(inline|block)/)) {
      place.classList.add("in-line");
      place.style.width = `${Math.ceil(wide)}px`;
    }
    const old = select.previousElementSibling; // of a list that was itself replaced
    if (old && old.classList.contains("chooser")) old.remove();
    select.before(place);
    const now = select.selectedOptions[0];
    accessibleAutocomplete({
      element: place,
      id: `${id}-typed`,
      name: "",
      defaultValue: now && now.value ? labelOf(now) : "",
      placeholder: now && !now.value ? labelOf(now) : "",
      source: select.dataset.finds ? asked(select) : local(select),
      showAllValues: true,
      autoselect: true,
      confirmOnBlur: true,
      required: select.required,
      displayMenu: "overlay",
      templates: {
        inputValue: (one) => (typeof one === "string" ? one : one && one.value ? one.label : ""),
        suggestion: (one) => {
          const box = document.createElement("span");
          box.textContent = typeof one === "string" ? one : one.label || WORDS.empty;
          return box.innerHTML;
        },
      },
      onConfirm: (one) => {
        if (!one || select.value === one.value) return;
        select.value = one.value;
        for (const type of ["input", "change"]) select.dispatchEvent(new Event(type, { bubbles: true }));
      },
      tNoResults: () => WORDS.none,
      tStatusQueryTooShort: () => "",
      tStatusNoResults: () => WORDS.none,
      tStatusSelectedOption: (chosen, count, index) => `${chosen}, ${index + 1}/${count}`,
      tStatusResults: (count) => WORDS.found.replace("{n}", count),
      tAssistiveHint: () => WORDS.hint,
      dropdownArrow: () => '<svg class="chooser-arrow" viewBox="0 0 12 8" aria-hidden="true"><path d="M1 1.5 L6 6.5 L11 1.5" /></svg>',
    });
    const input = place.querySelector("input");
    if (labels.length) labels.forEach((label) => (label.htmlFor = input.id));
    else if (name) input.setAttribute("aria-label", name);
    if (told[0]) input.setAttribute("aria-describedby", `${told[0]} ${input.getAttribute("aria-describedby") || ""}`.trim());
    if (told[1]) input.setAttribute("aria-invalid", told[1]);
    input.disabled = select.disabled;
    // What was typed and fits nothing is not chosen: the field shows again what is.
    input.addEventListener("blur", () =>
      setTimeout(() => {
        const chosen = select.selectedOptions[0];
        const right = chosen && chosen.value ? labelOf(chosen) : "";
        if (input.value !== right && !place.contains(document.activeElement)) show(place, input, right);
      }, 150),
    );
    select.addEventListener("change", () => {
      const chosen = select.selectedOptions[0];
      if (!place.contains(document.activeElement)) show(place, input, chosen && chosen.value ? labelOf(chosen) : "");
    });
    if (focused) input.focus();
  }

  /* React-like inputs keep their own value: it is set the way typing does. */
  function show(place, input, text) {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(input, text);
    input.dispatchEvent(new Event("input", { bubbles: false }));
    input.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape", keyCode: 27, bubbles: true }));
  }

  function look(root) {
    const long = [...root.querySelectorAll("select:not([multiple])")].filter((select) => select.options.length > LONG && !done.has(select));
    long.forEach((select) => done.add(select));
    if (long.length) load().then(() => long.forEach((select) => select.isConnected && enhance(select)));
  }

  document.addEventListener("DOMContentLoaded", () => look(document));
  document.addEventListener("htmx:afterSettle", () => look(document));
})();
