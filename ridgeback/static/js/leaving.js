// A date or a time is saved when its field is left, never while one types in it: the year 2027 begins as the year 2.
// Who picks it from the calendar and leaves the field as it is has it saved after a pause.
(() => {
  const SLOW = "input[type=date], input[type=time], input[type=datetime-local]";
  const PAUSE = 4000;
  const SETTLE = 120;
  const isSlow = (target) => target.matches && target.matches(SLOW);
  const halfTyped = (field) => field.validity.badInput || field.value.startsWith("0") && field.type !== "time";

  const save = (field) => {
    if (field.dataset.waits !== "yes" || !field.isConnected) return;
    delete field.dataset.waits;
    // A field that is left half typed has no value: what stood there before is kept.
    if (field.validity.badInput) {
      field.value = field.defaultValue;
      return;
    }
    field.dispatchEvent(new Event("change", { bubbles: true }));
  };

  let pause = 0;
  document.addEventListener(
    "change",
    (event) => {
      const field = event.target;
      if (!event.isTrusted || !isSlow(field)) return;
      event.stopImmediatePropagation();
      field.dataset.waits = "yes";
      window.clearTimeout(pause);
      pause = window.setTimeout(() => !halfTyped(field) && save(field), PAUSE);
    },
    true,
  );

  // Some browsers tell of a change while the focus goes from the day to the month: whether it has left is seen a moment later.
  document.addEventListener(
    "focusout",
    (event) => {
      const field = event.target;
      if (isSlow(field)) window.setTimeout(() => document.activeElement !== field && save(field), SETTLE);
    },
    true,
  );
  document.addEventListener(
    "keydown",
    (event) => {
      if (event.key === "Enter" && isSlow(event.target)) save(event.target);
    },
    true,
  );

  // A page that answers a form stands in the history as the page the form was on: Back asks for that one, and sends nothing again.
  document.addEventListener("DOMContentLoaded", () => {
    const from = document.body.dataset.sentFrom;
    if (from) window.history.replaceState(null, "", from);
  });

  // The browser's Back may show a page as it was left: what it says is old, so it is asked for again.
  window.addEventListener("pageshow", (event) => {
    if (event.persisted) window.location.reload();
  });
})();
