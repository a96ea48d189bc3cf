/* The section through the day, and what the pointer reads in it. The pictures come from the server, all of a day at once. */
"use strict";

(() => {
  const STEP_MS = 220;
  const SVG = "http://www.w3.org/2000/svg";
  let frames = null;
  let asked = "";
  let timer = null;
  let samples = null;
  let said = null;

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
    if (said) read(said);
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

  function between(grid, x, y) {
    const rows = grid.length - 1;
    const columns = grid[0].length - 1;
    const across = Math.min(Math.max(x, 0), 1) * columns;
    const up = Math.min(Math.max(y, 0), 1) * rows;
    const c = Math.min(Math.floor(across), columns - 1);
    const r = rows ? Math.min(Math.floor(up), rows - 1) : 0;
    const p = across - c;
    const q = up - r;
    const low = grid[r][c] * (1 - p) + grid[r][c + 1] * p;
    if (!rows) return low;
    return low * (1 - q) + (grid[r + 1][c] * (1 - p) + grid[r + 1][c + 1] * p) * q;
  }

  function degrees(celsius) {
    const shown = at("pointer").dataset.fahrenheit ? `${Math.round(celsius * 1.8 + 32)} °F` : `${celsius.toFixed(1)} °C`;
    return shown;
  }

  function read(place) {
    const scene = at("scene");
    const out = at("pointer");
    const now = samples || JSON.parse(scene.dataset.samples);
    if (place.h < 0 || place.h > place.height || place.x < 0 || place.x > place.length) {
      out.textContent = out.dataset.nothing;
      return;
    }
    if (place.h < place.ground) {
      const layers = now.ground;
      const layer = layers[Math.min(Math.floor(((place.ground - place.h) / place.ground) * layers.length), layers.length - 1)];
      const zones = [layer[0], ...layer, layer[4]]; /* level beyond the middles of the end zones */
      const stretched = (place.x / place.length) * 5 + 0.5;
      const k = Math.min(Math.floor(stretched), 5);
      const value = zones[k] + (zones[k + 1] - zones[k]) * (stretched - k);
      out.textContent = `${out.dataset.ground} ${degrees(value)}`;
      return;
    }
    const x = place.x / place.length;
    const y = (place.h - place.ground) / (place.height - place.ground);
    const air = between(now.air, x, y);
    const humid = Math.min((100 * now.vapour) / (610.94 * Math.exp((17.625 * air) / (air + 243.04))), 100);
    const index = between(now.uv, x, y);
    out.textContent = `${out.dataset.air} ${degrees(air)} · ${Math.round(humid)} % · UVI ${index.toFixed(1)}`;
  }

  document.addEventListener("pointermove", (event) => {
    const svg = at("drawing");
    if (!svg || !event.target.closest || !event.target.closest("#drawing")) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const data = svg.dataset;
    said = {
      x: (p.x - Number(data.left)) / Number(data.scale),
      h: (Number(data.floor) - p.y) / Number(data.scale),
      length: Number(data.length),
      height: Number(data.height),
      ground: Number(at("scene").dataset.ground),
    };
    read(said);
  });
})();
