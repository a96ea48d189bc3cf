/* The bench: dragging and moving parts in the section, layers, offers. The server does all the reckoning. */
"use strict";

document.addEventListener("alpine:init", () => {
  window.Alpine.data("bench", () => ({
    heat: true,
    uv: true,
    moisture: false,
    room: document.getElementById("bench")?.dataset.step === "furniture",
    get heatPressed() {
      return this.heat ? "true" : "false";
    },
    get uvPressed() {
      return this.uv ? "true" : "false";
    },
    get moisturePressed() {
      return this.moisture ? "true" : "false";
    },
    get roomPressed() {
      return this.room ? "true" : "false";
    },
    get layerClass() {
      const hidden = { heat: this.heat, uv: this.uv, moisture: this.moisture, room: this.room };
      return Object.keys(hidden).filter((layer) => !hidden[layer]).map((layer) => `no-${layer}`).join(" ");
    },
    toggleHeat() {
      this.heat = !this.heat;
    },
    toggleUv() {
      this.uv = !this.uv;
    },
    toggleMoisture() {
      this.moisture = !this.moisture;
    },
    toggleRoom() {
      this.room = !this.room;
    },
  }));
});

(() => {
  const STEP_M = 0.01;
  const KEYS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
  let drag = null;
  let keySave = null;
  const REST_MS = 200;
  let asked = "";
  let shown = "";
  let resting = true;
  let rest = null;
  let partly = "";

  const bench = () => document.getElementById("bench");
  const onFloor = (handle) => handle.dataset.moves === "floor";
  const drawing = (handle) => document.getElementById(onFloor(handle) ? "floor" : "drawing");

  function geometry(handle) {
    const data = drawing(handle).dataset;
    return { left: Number(data.left), floor: Number(data.floor), scale: Number(data.scale) };
  }

  /* Put the handle where the hand is, inside the enclosure; the server has the last word. */
  function place(handle, x, h) {
    const { length, ceiling, width } = bench().dataset;
    const limits = { length: Number(length), ceiling: Number(ceiling), width: Number(width) };
    const part = { moves: handle.dataset.moves, x: Number(handle.dataset.x), h: Number(handle.dataset.h) };
    const at = window.moving.placed(part, { x, h }, limits);
    handle.dataset.x = at.x;
    handle.dataset.h = at.h;
    const g = geometry(handle);
    handle.setAttribute("transform", `translate(${g.left + at.x * g.scale} ${g.floor - at.h * g.scale})`);
    handle.setAttribute("aria-valuenow", ["x", "floor"].includes(handle.dataset.moves) ? at.x : at.h);
    return at;
  }

  /* The server may have stopped a part earlier than the hand did. */
  function settle() {
    document.querySelectorAll("#scene .place, #floor-scene .place").forEach((spot) => {
      const view = spot.closest("#floor-scene") ? "floor-handle" : "handle";
      const handle = document.getElementById(`${view}-${spot.dataset.place}`);
      if (!handle || (drag && drag.handle === handle)) return;
      handle.dataset.x = spot.dataset.x;
      handle.dataset.h = spot.dataset.h;
      handle.setAttribute("transform", `translate(${spot.dataset.px} ${spot.dataset.py})`);
      handle.setAttribute("aria-valuetext", spot.dataset.said);
    });
  }

  function values(handle) {
    const form = document.getElementById("inputs");
    return {
      part: handle.dataset.part,
      x_m: handle.dataset.x,
      [onFloor(handle) ? "y_m" : "height_m"]: handle.dataset.h,
      step: form.elements.step.value,
      season: form.elements.season.value,
      phase: form.elements.phase.value,
      version: document.getElementById("version").value,
    };
  }

  /* The handle may have been put anew by an answer meanwhile. */
  function deliver(held, save) {
    const handle = document.getElementById(held.id) || held;
    const url = save ? bench().dataset.move : bench().dataset.preview;
    const said = values(handle);
    const place = JSON.stringify(said);
    if (save && place === shown) said.shown = "yes";
    if (!save && !resting) said.near = "yes";
    asked = save || said.near ? "" : place;
    partly = said.near ? (onFloor(handle) ? "floor" : "section") : "";
    return window.htmx.ajax("POST", url, { source: "#inputs", target: "#bench", swap: "none", values: said });
  }

  const send = window.moving.newestFirst(deliver, settle);

  /* While the hand is on its way the answers hold what the eye is on; everything else comes as soon as it rests. */
  function follows(handle) {
    resting = false;
    send(handle, false);
    window.clearTimeout(rest);
    rest = window.setTimeout(() => rests(handle), REST_MS);
  }

  function rests(handle) {
    window.clearTimeout(rest);
    if (resting) return;
    resting = true;
    send(handle, false);
  }

  /* Findings come and go while a part is dragged, and the floor plan stands below them: the page does not grow shorter
     meanwhile, and where something above the drawing grows the page goes along, so that nothing moves under the hand. */
  function still(held) {
    const foot = document.querySelector(".bench-foot");
    if (foot) foot.style.minHeight = held ? `${foot.offsetHeight}px` : "";
    document.body.style.minHeight = held ? `${document.documentElement.scrollHeight}px` : "";
  }

  /* None where nothing is dragged, or where an answer took the drawing away. */
  const topOf = () => (drag ? drawing(drag.handle)?.getBoundingClientRect().top : undefined);
  let stood;

  document.addEventListener("htmx:beforeSwap", () => {
    stood = topOf();
  });

  function follow() {
    const stands = topOf();
    if (stood !== undefined && stands !== undefined) window.scrollBy({ top: stands - stood, behavior: "instant" });
  }

  document.addEventListener("htmx:afterSwap", follow);

  /* What was asked for a state that the page leaves, or while a part is on its way, would put old numbers beside new ones.
     The place that asked goes with the swap, and nothing is heard of it any more: its request ends before. */
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { xhr, target, pathInfo } = event.detail;
    const state = xhr.getResponseHeader("X-Plan-State");
    const now = document.getElementById("version");
    if (state && now && (state !== now.value || (drag && drag.moved))) event.detail.shouldSwap = false;
    const whole = target && target.id === "bench";
    const own = bench() && [bench().dataset.preview, bench().dataset.move].includes(pathInfo.requestPath);
    if (!asking || !(whole || own)) return;
    asking.onload = asking.onabort = asking.onerror = null; // ended on purpose: no news to anybody
    asking.abort();
    asking = null;
  });

  let asking = null;
  document.addEventListener("htmx:beforeRequest", (event) => {
    if (event.detail.elt.id === "mending") asking = event.detail.xhr;
  });

  /* What was unfolded to read why stays so, whatever its numbers become. */
  const unfolded = new Set();

  document.addEventListener(
    "toggle",
    ({ target }) => {
      if (target.id) unfolded[target.open ? "add" : "delete"](target.id);
    },
    true,
  );

  function unfold(fresh) {
    for (const details of fresh.querySelectorAll("details[id]")) details.open ||= unfolded.has(details.id);
  }

  /* htmx puts the new one in before it takes the old one away: two of a name are not open at once. */
  document.addEventListener("htmx:oobBeforeSwap", ({ detail }) => {
    for (const old of detail.target.querySelectorAll("details[name]")) old.removeAttribute("name");
    unfold(detail.fragment);
  });

  /* The answer to a drag is nothing but pieces with an id: put in place here, in a third of the time that a general
     out-of-band swap takes. What carries htmx attributes of its own is handed to htmx. */
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { xhr, pathInfo } = event.detail;
    const own = bench() && [bench().dataset.preview, bench().dataset.move].includes(pathInfo.requestPath);
    if (!own || xhr.status !== 200 || xhr.getResponseHeader("HX-Retarget")) return;
    event.detail.shouldSwap = false;
    shown = asked;
    const answer = new DOMParser().parseFromString(xhr.responseText, "text/html");
    const roots = [answer, ...[...answer.querySelectorAll("template")].map((template) => template.content)];
    for (const root of roots) {
      for (const fresh of root.querySelectorAll("[hx-swap-oob]")) {
        const old = document.getElementById(fresh.id);
        fresh.removeAttribute("hx-swap-oob");
        if (!old) continue;
        unfold(fresh);
        old.replaceWith(fresh);
        if (fresh.matches("[hx-get]") || fresh.querySelector("[hx-post]")) window.htmx.process(fresh);
      }
    }
    bench().dataset.partly = partly;
    follow();
  });

  function point(event, handle) {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing(handle).getScreenCTM().inverse());
    const g = geometry(handle);
    return { x: (p.x - g.left) / g.scale, h: (g.floor - p.y) / g.scale };
  }

  document.addEventListener("pointerdown", (event) => {
    const handle = event.target.closest && event.target.closest(".handle");
    if (!handle || event.button !== 0) return;
    const p = point(event, handle);
    drag = { handle, dx: Number(handle.dataset.x) - p.x, dh: Number(handle.dataset.h) - p.h, moved: false };
    handle.setPointerCapture(event.pointerId);
    handle.focus({ preventScroll: true });
    event.preventDefault();
    still(true);
  });

  document.addEventListener("pointermove", (event) => {
    if (!drag) return;
    const p = point(event, drag.handle);
    const step = Number(bench().dataset.measured);
    place(drag.handle, window.moving.measurable(p.x + drag.dx, step), window.moving.measurable(p.h + drag.dh, step));
    drag.moved = true;
    follows(drag.handle);
  });

  function letGo() {
    if (!drag) return;
    const { handle, moved } = drag;
    drag = null;
    still(false);
    if (!moved) return;
    rests(handle);
    send(handle, true);
  }
  document.addEventListener("pointerup", letGo);
  document.addEventListener("pointercancel", letGo);

  document.addEventListener("keydown", (event) => {
    const handle = event.target.closest && event.target.closest(".handle");
    if (!handle || !KEYS[event.key]) return;
    event.preventDefault();
    const [dx, dh] = KEYS[event.key];
    const size = STEP_M * (event.shiftKey ? 5 : 1);
    place(handle, Number(handle.dataset.x) + dx * size, Number(handle.dataset.h) + dh * size);
    follows(handle);
    window.clearTimeout(keySave);
    keySave = window.setTimeout(() => {
      keySave = null;
      rests(handle);
      send(handle, true);
    }, 350);
  });

  /* With a thing in hand: t turns it, c puts one more like it, Delete takes it away. */
  const DEEDS = { t: "turn", c: "copy", Delete: "take" };
  document.addEventListener("keydown", (event) => {
    const handle = event.target.closest && event.target.closest(".handle");
    const deed = DEEDS[event.key];
    if (!handle || !deed || event.ctrlKey || event.metaKey || event.altKey || !handle.dataset.part.startsWith("things.")) return;
    event.preventDefault();
    const { part, step, season, phase, version } = values(handle);
    const back = handle.id;
    window.htmx
      .ajax("POST", bench().dataset.part, {
        source: "#inputs",
        target: "#bench",
        swap: "outerHTML",
        values: { do: deed, part, step, season, phase, version },
      })
      .then(() => {
        const again = document.getElementById(back);
        if (again) again.focus({ preventScroll: true });
      });
  });

  /* "Use 90 °F": put the likely meaning into its field and save it. */
  document.addEventListener("click", (event) => {
    const button = event.target.closest && event.target.closest("[data-offer]");
    if (!button) return;
    const input = document.getElementById(button.dataset.for);
    input.value = button.dataset.offer;
    input.dispatchEvent(new Event("change", { bubbles: true }));
    input.focus();
  });
})();
