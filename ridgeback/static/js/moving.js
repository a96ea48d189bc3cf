/* Sending what a hand does faster than a server answers. */
"use strict";

(function (root) {
  /* One delivery at a time: the newest waits, older ones are forgotten, and a save is never forgotten.
     `deliver(what, save)` returns a promise; `after()` is called when it has ended and the next one has begun. */
  function newestFirst(deliver, after) {
    let busy = false;
    let waiting = null;

    function send(what, save) {
      if (busy) {
        waiting = { what, save: save || Boolean(waiting && waiting.save) };
        return;
      }
      busy = true;
      Promise.resolve(deliver(what, save))
        .catch(() => {})
        .then(() => {
          busy = false;
          const next = waiting;
          waiting = null;
          if (next) send(next.what, next.save);
          after();
        });
    }

    return send;
  }

  /* Where a part stands that is moved to (x, h): inside the enclosure, and only along what it moves by ("x", "h" or both).
     On the floor plan ("floor") h is how far it stands from the front. */
  function placed(part, wanted, limits) {
    const clamp = (value, high) => Math.min(Math.max(value, 0), high);
    return {
      x: part.moves === "h" ? part.x : clamp(wanted.x, limits.length),
      h: part.moves === "x" ? part.h : clamp(wanted.h, part.moves === "floor" ? limits.width : limits.ceiling),
    };
  }

  /* The nearest place that one would measure out: a hand does not mean a hundredth of a millimetre. */
  function measurable(metres, step) {
    return step > 0 ? Number((Math.round(metres / step) * step).toFixed(5)) : metres;
  }

  root.moving = { newestFirst, placed, measurable };
})(typeof window === "undefined" ? globalThis : window);
