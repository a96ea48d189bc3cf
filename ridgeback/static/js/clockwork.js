/* The section through the day, and what the pointer reads in it. The pictures come from the server, all of a day at once. */
"use strict";

(() => {
  const STEP_MS = 220;
  const SVG = "http://www.w3.org/2000/svg";
  let frames = null;
  let asked = "";
  let timer = null;
  let samples = null;
  let where = null;

  const at = (id) => document.getElementById(id);

  function text(id, words, small) {
    const spans = at(id) ? at(id).querySelectorAll("tspan") : [];
    if (spans[0]) spans[0].textContent = words;
    if (spans[1] && small !== undefined) spans[1].textContent = small;
  }

  function line(parent, name, attributes, words) {
    const made = document.createElementNS(SVG, name);
    for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value);
    if (words) made.textContent = words;
    parent.append(made);
  }

  function show(frame) {
    at("wash").setAttribute("href", frame.wash);
    at("dots").setAttribute("d", frame.dots);
    at("isotherms").replaceChildren();
    at("isotherm-labels").replaceChildren();
    for (const one of frame.lines) {
      line(at("isotherms"), "path", { d: one.path });
      if (one.text) line(at("isotherm-labels"), "text", { class: "iso", x: one.x, y: one.y }, one.text);
    }
    text("label-warm", frame.ends.warm, frame.damp.warm);
    text("label-cool", frame.ends.cool, frame.damp.cool);
    text("label-spot", frame.spot);
    text("label-water", frame.water);
    document.querySelectorAll("[data-heater]").forEach((heater) => {
      heater.classList.toggle("on", Boolean(frame.working[Number(heater.dataset.heater)]));
    });
    at("drawing").classList.toggle("unlit", !frame.lit);
    at("clock-said").textContent = frame.clock;
    at("clock").setAttribute("aria-valuetext", frame.clock);
    const now = at("now");
    const across = Number(now.dataset.left) + (Number(now.dataset.span) * (Number(at("clock").value) + 1)) / 48;
    now.removeAttribute("hidden");
    now.setAttribute("x1", across);
    now.setAttribute("x2", across);
    samples = frame.samples;
    if (where) read(where);
  }

  /* Fetched once for the plan as it stands; a change of the plan or of the view asks anew. */
  async function fetched() {
    const url = at("clockwork").dataset.hours;
    const version = at("version") ? at("version").value : "";
    if (frames && asked === url + version) return frames;
    const answer = await fetch(url, { headers: { Accept: "application/json" } });
    if (!answer.ok) throw new Error("no hours");
    frames = (await answer.json()).frames;
    asked = url + version;
    return frames;
  }

  async function turn() {
    try {
      const all = await fetched();
      show(all[Number(at("clock").value)]);
    } catch {
      stop();
    }
  }

  function stop() {
    window.clearInterval(timer);
    timer = null;
    if (at("play")) at("play").textContent = at("play").dataset.play;
  }

  document.addEventListener("input", (event) => {
    if (event.target.id === "clock") turn();
  });

  document.addEventListener("click", (event) => {
    if (!event.target.closest || !event.target.closest("#play")) return;
    if (timer) {
      stop();
      return;
    }
    at("play").textContent = at("play").dataset.pause;
    timer = window.setInterval(() => {
      if (!at("clock")) {
        stop();
        return;
      }
      at("clock").value = (Number(at("clock").value) + 1) % 48;
      turn();
    }, STEP_MS);
  });

  /* The plan's own picture is back in the drawing: the pointer reads that one. */
  document.addEventListener("htmx:afterRequest", () => {
    samples = null;
    if (at("scene") && at("drawing")) at("drawing").classList.remove("unlit");
  });

  function read(place) {
    const scene = at("scene");
    const out = at("pointer");
    const now = samples || JSON.parse(scene.dataset.samples);
    if (place.h < 0 || place.h > place.height || place.x < 0 || place.x > place.length) {
      out.textContent = out.dataset.nothing;
      return;
    }
    const { between, inLayers, said, written } = window.gridReading;
    const { mark } = document.documentElement.dataset;
    const x = place.x / place.length;
    if (place.h < place.ground) {
      const value = inLayers(now.ground, x, (place.ground - place.h) / place.ground);
      out.textContent = `${out.dataset.ground} ${said(value, now.shown, mark)}`;
      return;
    }
    const y = (place.h - place.ground) / (place.height - place.ground);
    const humid = Math.round(between(now.humid, x, y));
    const air = said(between(now.air, x, y), now.shown, mark);
    out.textContent = `${out.dataset.air} ${air} · ${humid} % · UVI ${written(between(now.uv, x, y), 1, mark)}`;
  }

  document.addEventListener("pointermove", (event) => {
    const svg = at("drawing");
    if (!svg || !event.target.closest || !event.target.closest("#drawing")) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const data = svg.dataset;
    where = {
      x: (p.x - Number(data.left)) / Number(data.scale),
      h: (Number(data.floor) - p.y) / Number(data.scale),
      length: Number(data.length),
      height: Number(data.height),
      ground: Number(at("scene").dataset.ground),
    };
    read(where);
  });
})();
