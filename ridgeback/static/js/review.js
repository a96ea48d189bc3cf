/* What stands, told by hand: a press on the drawing puts a thing there, and a photo may lie under it.
   The lines of the form hold what was told; the drawing is made from them by the server. */
"use strict";

(() => {
  const STEP_M = 0.02;
  const LONGEST_PX = 1600; // of a photo's side: a phone's whole picture would only make the page slow
  const KEYS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
  const form = document.getElementById("told");
  const scene = document.querySelector(".told-scene");
  if (!form || !scene) return;
  const says = document.getElementById("palette-says");
  const first = says.textContent;
  let putting = null; // the button of what is put next
  let held = null; // the mark that is dragged
  let photo = null; // {href, width, height, corners: [] of two points in the picture, each as a share of its sides}
  scene.hidden = false;

  const floor = () => document.getElementById("told-floor");
  const rows = (group) => [...form.querySelectorAll(`[data-row="${group}"]`)];
  const field = (row, name) => row.querySelector(`[name="${name}"]`);

  function metres(event) {
    const svg = floor();
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const { left, front, scale, length, width } = svg.dataset;
    const clamp = (value, most) => Math.min(Math.max(value, 0), Number(most));
    return { x: clamp((p.x - Number(left)) / Number(scale), length), y: clamp((Number(front) - p.y) / Number(scale), width) };
  }

  /* Which end a place is at: the first lamp or mat makes the warm one; without any it is the left one. */
  function endOf(x) {
    const length = Number(floor().dataset.length);
    const lamp = rows("heater").find((row) => field(row, "heater-kind").value && field(row, "heater-x").value);
    const share = x / length;
    const fromWarm = lamp && Number(field(lamp, "heater-x").value) > length / 2 ? 1 - share : share;
    if (fromWarm < 0.38) return "warm";
    return fromWarm > 0.62 ? "cool" : "middle";
  }

  /* An empty line of a group: one that is there, or a copy of the last one. */
  function emptyRow(group) {
    const there = rows(group);
    const empty = there.find((row) => !row.querySelector("select").value);
    if (empty) return empty;
    const fresh = there.at(-1).cloneNode(true);
    fresh.querySelectorAll("input").forEach((input) => {
      input.value = "";
    });
    fresh.querySelectorAll("select").forEach((select) => {
      select.selectedIndex = 0;
    });
    there.at(-1).after(fresh);
    return fresh;
  }

  function told() {
    form.dispatchEvent(new Event("told-put"));
  }

  function place(group, row, at) {
    const x = at.x.toFixed(3);
    const y = at.y.toFixed(3);
    if (group === "bowl") {
      form.elements.bowl_x.value = x;
      form.elements.bowl_y.value = y;
      return;
    }
    field(row, `${group}-x`).value = x;
    field(row, `${group}-y`).value = y;
    const end = field(row, `${group}-end`);
    if (end) end.value = group === "heater" && rows("heater")[0] === row ? "warm" : endOf(at.x);
  }

  function put(button, at) {
    const { put: group, value, humid } = button.dataset;
    if (group === "bowl") {
      form.elements.bowl.value = value;
      place(group, null, at);
    } else {
      const row = emptyRow(group);
      if (group !== "hide") row.querySelector("select").value = value;
      place(group, row, at);
      if (humid) field(row, "hide-humid").value = humid;
    }
    told();
  }

  function choose(button) {
    putting = putting === button ? null : button;
    document.querySelectorAll(".palette button").forEach((one) => {
      one.setAttribute("aria-pressed", String(one === putting));
    });
    says.textContent = putting ? says.dataset.put : first;
  }

  document.querySelector(".palette").addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (button) choose(button);
  });

  /* A place typed by its end counts, and no more the one that was pressed. */
  form.addEventListener("change", (event) => {
    const row = event.target.closest && event.target.closest("[data-row]");
    if (!row || !event.target.name || !event.target.name.endsWith("-end")) return;
    row.querySelectorAll('input[type="hidden"]').forEach((input) => {
      input.value = "";
    });
  });

  /* Marks are dragged, or moved by the arrow keys. */
  const told_ = document.getElementById("told-drawing");
  function rowOf(mark) {
    const filled = rows(mark.dataset.group).filter((row) => row.querySelector("select").value);
    return filled[Number(mark.dataset.row)] || null;
  }

  function moved(mark, at) {
    place(mark.dataset.group, rowOf(mark), at);
    const { left, front, scale } = floor().dataset;
    mark.dataset.x = at.x.toFixed(3);
    mark.dataset.y = at.y.toFixed(3);
    mark.setAttribute("transform", `translate(${Number(left) + at.x * Number(scale)} ${Number(front) - at.y * Number(scale)})`);
  }

  told_.addEventListener("pointerdown", (event) => {
    const svg = floor();
    if (!svg || !svg.contains(event.target) || event.button !== 0) return;
    if (photo && photo.corners.length < 2) {
      corner(event);
      return;
    }
    if (putting) {
      put(putting, metres(event));
      choose(putting);
      return;
    }
    const mark = event.target.closest(".told-mark");
    if (!mark) return;
    held = mark;
    mark.setPointerCapture(event.pointerId);
    event.preventDefault();
  });

  told_.addEventListener("pointermove", (event) => {
    if (held) moved(held, metres(event));
  });

  ["pointerup", "pointercancel"].forEach((name) => {
    told_.addEventListener(name, () => {
      if (held) told();
      held = null;
    });
  });

  told_.addEventListener("keydown", (event) => {
    const mark = event.target.closest && event.target.closest(".told-mark");
    if (!mark || !KEYS[event.key]) return;
    event.preventDefault();
    const [dx, dy] = KEYS[event.key];
    const { length, width } = floor().dataset;
    const within = (value, most) => Math.min(Math.max(value, 0), Number(most));
    const far = event.shiftKey ? 5 : 1;
    moved(mark, {
      x: within(Number(mark.dataset.x) + dx * STEP_M * far, length),
      y: within(Number(mark.dataset.y) + dy * STEP_M * far, width),
    });
    again = { group: mark.dataset.group, row: mark.dataset.row };
    told();
  });

  let again = null; // the mark that the keys hold, found again in a fresh drawing

  /* The photo lies under the drawing, drawn out so that the two corners that were pressed are the box's. */
  function lay() {
    const svg = floor();
    if (!svg || !photo) return;
    svg.classList.toggle("on-photo", photo.corners.length === 2);
    let image = svg.querySelector("image.told-photo");
    if (!image) {
      image = document.createElementNS("http://www.w3.org/2000/svg", "image");
      image.setAttribute("class", "told-photo");
      image.setAttribute("preserveAspectRatio", "none");
      svg.append(image);
    }
    image.setAttribute("href", photo.href);
    const { left, front, scale, length, width } = svg.dataset;
    const box = { x: Number(left), y: Number(front) - Number(width) * Number(scale), w: Number(length) * Number(scale), h: Number(width) * Number(scale) };
    let at = box;
    if (photo.corners.length < 2) {
      const fit = Math.min(box.w / photo.width, box.h / photo.height);
      at = { x: box.x, y: box.y, w: photo.width * fit, h: photo.height * fit };
    } else {
      const [one, two] = photo.corners;
      const w = box.w / (two.x - one.x);
      const h = box.h / (two.y - one.y);
      at = { x: box.x - one.x * w, y: box.y - one.y * h, w, h };
      svg.prepend(image);
    }
    photo.at = at;
    Object.entries({ x: at.x, y: at.y, width: at.w, height: at.h }).forEach(([name, value]) => {
      image.setAttribute(name, value);
    });
  }

  function corner(event) {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(floor().getScreenCTM().inverse());
    const share = { x: (p.x - photo.at.x) / photo.at.w, y: (p.y - photo.at.y) / photo.at.h };
    const one = photo.corners[0];
    if (one && (share.x - one.x < 0.05 || share.y - one.y < 0.05)) photo.corners = [];
    else photo.corners.push(share);
    says.textContent = [says.dataset.first, says.dataset.second, first][photo.corners.length];
    lay();
  }

  document.getElementById("told-photo").addEventListener("change", (event) => {
    event.stopPropagation(); // a photo tells the server nothing
    const file = event.target.files[0];
    if (!file) return;
    const reader = new FileReader();
    reader.onload = () => {
      const picture = new Image();
      picture.onload = () => {
        const less = Math.min(1, LONGEST_PX / Math.max(picture.width, picture.height));
        const canvas = document.createElement("canvas");
        canvas.width = Math.round(picture.width * less);
        canvas.height = Math.round(picture.height * less);
        canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
        photo = { href: canvas.toDataURL("image/jpeg", 0.8), width: canvas.width, height: canvas.height, corners: [], at: null };
        says.textContent = floor() ? says.dataset.first : first;
        lay();
      };
      picture.src = reader.result;
    };
    reader.readAsDataURL(file);
  });

  document.addEventListener("htmx:afterSettle", (event) => {
    if (event.detail.target !== told_ && event.target !== told_) return;
    lay();
    if (!again) return;
    const mark = told_.querySelector(`.told-mark[data-group="${again.group}"][data-row="${again.row}"]`);
    again = null;
    if (mark) mark.focus({ preventScroll: true });
  });
})();
