/* Finding and help on every page: two panels, the keys that open them, and the words of the trade that stand on the page. */
"use strict";

(() => {
  const OFF = "ridgeback-keys-off";
  const GOES = { h: "/habitats/", r: "/round/", a: "/animals/", w: "/watch/", c: "/calendar/", p: "/pantry/", s: "/species/", b: "/handbook/" };
  const SECOND_KEY_MS = 1200;
  const panel = (name) => document.getElementById(name);
  let ranges = [];
  let back = null;

  const off = () => {
    try {
      return localStorage.getItem(OFF) === "yes";
    } catch {
      return false;
    }
  };
  const switched = (on) => {
    try {
      if (on) localStorage.removeItem(OFF);
      else localStorage.setItem(OFF, "yes");
    } catch {
      // a browser that keeps nothing: the keys stay as they are
    }
  };

  /* ---- finding ---- */
  function openFind() {
    const find = panel("find");
    if (!find) return false;
    if (!find.open) find.showModal();
    const field = find.querySelector("input");
    field.focus();
    field.select();
    return true;
  }

  /* ---- help ---- */
  const escaped = (text) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

  function formsOf(entry) {
    return entry.dataset.forms.split("|").filter(Boolean);
  }

  function texts(root) {
    const walk = document.createTreeWalker(root, NodeFilter.SHOW_TEXT, {
      acceptNode: (node) => (node.parentElement.closest("script, style, template, [hidden], textarea") ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT),
    });
    const found = [];
    while (walk.nextNode()) found.push(walk.currentNode);
    return found;
  }

  /* Show the words and marks that stand on the page, hide the others; underline the words where the browser can. */
  function lookAround(help) {
    const main = document.getElementById("main");
    const nodes = texts(main);
    ranges = [];
    for (const entry of help.querySelectorAll("[data-forms]")) {
      const pattern = new RegExp(`(?<![\\p{L}\\p{N}])(?:${formsOf(entry).sort((a, b) => b.length - a.length).map(escaped).join("|")})(?![\\p{L}\\p{N}])`, "giu");
      let there = false;
      for (const node of nodes) {
        for (const match of node.data.matchAll(pattern)) {
          const range = new Range();
          range.setStart(node, match.index);
          range.setEnd(node, match.index + match[0].length);
          ranges.push({ range, entry });
          there = true;
        }
      }
      entry.hidden = !there;
    }
    for (const mark of help.querySelectorAll("[data-mark]")) mark.hidden = !main.querySelector(`use[href="#${mark.dataset.mark}"]`);
    for (const part of help.querySelectorAll("[data-if-any]")) {
      part.hidden = ![...part.querySelectorAll("[data-forms], [data-mark]")].some((one) => !one.hidden);
    }
    if (window.CSS && CSS.highlights) CSS.highlights.set("words", new Highlight(...ranges.map((one) => one.range)));
  }

  async function openHelp() {
    const help = panel("help");
    if (!help.firstElementChild) {
      const answer = await fetch(help.dataset.address);
      if (!answer.ok) return;
      help.innerHTML = await answer.text();
      const keys = help.querySelector("[data-keys-on]");
      keys.checked = !off();
      keys.addEventListener("change", () => switched(keys.checked));
    }
    lookAround(help);
    if (!help.open) {
      back = document.activeElement;
      help.show();
    }
    help.querySelector("[data-close]").focus();
  }

  function closeHelp() {
    const help = panel("help");
    if (!help.open) return;
    help.close();
    ranges = [];
    if (window.CSS && CSS.highlights) CSS.highlights.delete("words");
    if (back && back.isConnected) back.focus();
  }

  /* The word under a press, while the help is open: its meaning comes to the top. */
  function askedFor(event) {
    const { clientX: x, clientY: y } = event;
    const under = ranges.find(({ range }) => [...range.getClientRects()].some((box) => x >= box.left && x <= box.right && y >= box.top && y <= box.bottom));
    if (!under) return false;
    const help = panel("help");
    help.querySelectorAll(".asked").forEach((one) => one.classList.remove("asked"));
    under.entry.classList.add("asked");
    under.entry.parentElement.prepend(under.entry);
    under.entry.scrollIntoView({ block: "center" });
    return true;
  }

  document.addEventListener(
    "click",
    (event) => {
      const opener = event.target.closest && event.target.closest("[data-open]");
      if (opener && !event.ctrlKey && !event.metaKey && !event.shiftKey && event.button === 0) {
        if (opener.dataset.open === "find" && openFind()) event.preventDefault();
        if (opener.dataset.open === "help") {
          event.preventDefault();
          if (panel("help").open) closeHelp();
          else openHelp();
        }
        return;
      }
      if (event.target.closest && event.target.closest("[data-close]")) {
        const box = event.target.closest("dialog");
        if (box && box.id === "help") closeHelp();
        else if (box) box.close();
        return;
      }
      if (event.isTrusted && panel("help").open && event.target.closest && event.target.closest("main") && askedFor(event)) {
        event.preventDefault();
        event.stopPropagation();
      }
    },
    true,
  );

  /* ---- keys ---- */
  let first = "";
  let until = 0;

  function typing(target) {
    return target.closest && target.closest("input, select, textarea, [contenteditable], [role=slider], [role=application]");
  }

  function pressed(event) {
    if (event.key === "Escape") {
      closeHelp();
      return;
    }
    const find = panel("find");
    if (find && find.open && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      const stops = [find.querySelector("input"), ...find.querySelectorAll(".hits a")];
      const at = Math.max(0, stops.indexOf(document.activeElement));
      stops[(at + (event.key === "ArrowDown" ? 1 : stops.length - 1)) % stops.length].focus();
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing || off() || typing(event.target) || (find && find.open)) return;
    const second = first === "g" && Date.now() < until;
    first = "";
    if (second && GOES[event.key]) {
      window.location.assign(GOES[event.key]);
    } else if (event.key === "/" && openFind()) {
      event.preventDefault();
    } else if (event.key === "?") {
      event.preventDefault();
      if (panel("help").open) closeHelp();
      else openHelp();
    } else if (event.key === "n" && find) {
      window.location.assign("/habitats/new/");
    } else if (event.key === "g" && find) {
      first = "g";
      until = Date.now() + SECOND_KEY_MS;
    }
  }

  document.addEventListener("keydown", pressed);
})();
