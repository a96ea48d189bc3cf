/* A chart is looked at closer by dragging over it: the span between is asked for. Without this script the links do it. */
(() => {
  "use strict";
  const LEAST_PX = 8;
  let drag = null;

  const place = (svg, event) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    return Math.min(Math.max(point.x, Number(svg.dataset.left)), Number(svg.dataset.right));
  };

  const moment = (svg, x) => {
    const { since, until, left, right } = svg.dataset;
    const begin = Date.parse(since);
    const share = (x - Number(left)) / (Number(right) - Number(left));
    return new Date(begin + share * (Date.parse(until) - begin)).toISOString();
  };

  document.addEventListener("pointerdown", (event) => {
    const svg = event.target.closest && event.target.closest("svg[data-since]");
    if (!svg || event.button !== 0 || event.pointerType === "touch") return;
    drag = { svg, x: place(svg, event), chosen: svg.querySelector(".chosen") };
    svg.setPointerCapture(event.pointerId);
    event.preventDefault();
  });

  document.addEventListener("pointermove", (event) => {
    if (!drag) return;
    const x = place(drag.svg, event);
    drag.chosen.setAttribute("x", Math.min(x, drag.x));
    drag.chosen.setAttribute("width", Math.abs(x - drag.x));
  });

  document.addEventListener("pointerup", (event) => {
    if (!drag) return;
    const { svg, x: first, chosen } = drag;
    const last = place(svg, event);
    drag = null;
    chosen.setAttribute("width", 0);
    if (Math.abs(last - first) < LEAST_PX) return;
    const asked = new URLSearchParams({ from: moment(svg, Math.min(first, last)), to: moment(svg, Math.max(first, last)) });
    window.location.search = asked.toString();
  });

  document.addEventListener("pointercancel", () => {
    if (drag) drag.chosen.setAttribute("width", 0);
    drag = null;
  });
})();
