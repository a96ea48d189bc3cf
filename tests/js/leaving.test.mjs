// Dates and times are saved when their field is left, and a page shown again by the browser's Back is asked for anew.
import assert from "node:assert/strict";
import test, { beforeEach } from "node:test";

const heard = {};
const listen = (type, handler) => (heard[type] ??= []).push(handler);
const tell = (type, event) => heard[type].forEach((handler) => handler(event));
let reloads = 0;
let now = 0;
let timers = [];
let keys = 0;
/* So many milliseconds go by. */
function pass(ms) {
  now += ms;
  const due = timers.filter((timer) => timer.at <= now);
  timers = timers.filter((timer) => timer.at > now);
  due.forEach((timer) => timer.run());
}
globalThis.document = { addEventListener: listen, activeElement: null, body: { dataset: {} } };
globalThis.window = {
  addEventListener: listen,
  setTimeout: (run, ms) => timers.push({ run, at: now + ms, key: (keys += 1) }) && keys,
  clearTimeout: (key) => (timers = timers.filter((timer) => timer.key !== key)),
  location: { reload: () => (reloads += 1) },
  history: { replaceState: (_state, _title, address) => (globalThis.window.shown = address) },
};
await import("../../ridgeback/static/js/leaving.js");

/* An input; `saved` counts the changes that the page hears of. */
function field(value, { type = "date", badInput = false } = {}) {
  const made = { type, value, defaultValue: "2026-11-01", validity: { badInput }, dataset: {}, isConnected: true, saved: 0 };
  made.matches = (kinds) => kinds.includes(`type=${type}]`);
  made.dispatchEvent = () => (made.saved += 1);
  return made;
}

/* The browser tells of a change; returns whether the page hears of it at once. */
function typed(target) {
  let atOnce = true;
  tell("change", { target, isTrusted: true, stopImmediatePropagation: () => (atOnce = false) });
  return atOnce;
}

beforeEach(() => {
  timers = [];
  document.activeElement = null;
});

test("a text is heard of at once, a date when its field is left", () => {
  assert.equal(typed(field("12", { type: "text" })), true);
  const date = field("2027-03-04");
  assert.equal(typed(date), false);
  assert.equal(date.saved, 0);
  tell("focusout", { target: date });
  pass(200);
  assert.equal(date.saved, 1);
  tell("focusout", { target: date });
  pass(200);
  assert.equal(date.saved, 1);
});

test("going from the day to the month inside one field saves nothing", () => {
  const date = field("2027-03-04");
  document.activeElement = date;
  typed(date);
  tell("focusout", { target: date });
  pass(200);
  assert.equal(date.saved, 0);
});

test("the Enter key saves at once, another key does not", () => {
  const time = field("08:30", { type: "time" });
  typed(time);
  tell("keydown", { target: time, key: "3" });
  assert.equal(time.saved, 0);
  tell("keydown", { target: time, key: "Enter" });
  assert.equal(time.saved, 1);
});

test("a date left standing is saved after a pause, a year half typed is not", () => {
  const whole = field("2027-03-04");
  typed(whole);
  pass(5000);
  assert.equal(whole.saved, 1);
  const half = field("0002-03-04");
  typed(half);
  pass(5000);
  assert.equal(half.saved, 0);
  const early = field("08:30", { type: "time" });
  typed(early);
  pass(5000);
  assert.equal(early.saved, 1);
});

test("a field left half typed keeps what stood there", () => {
  const date = field("", { badInput: true });
  typed(date);
  tell("focusout", { target: date });
  pass(200);
  assert.equal(date.value, "2026-11-01");
  assert.equal(date.saved, 0);
});

test("a field that an answer took away is not saved", () => {
  const date = field("2027-03-04");
  typed(date);
  date.isConnected = false;
  pass(5000);
  assert.equal(date.saved, 0);
});

test("a page shown as it was left is asked for anew, a fresh one is not", () => {
  tell("pageshow", { persisted: false });
  assert.equal(reloads, 0);
  tell("pageshow", { persisted: true });
  assert.equal(reloads, 1);
});

test("a page that answers a form stands in the history as the form's page", () => {
  tell("DOMContentLoaded", {});
  assert.equal(window.shown, undefined);
  document.body.dataset.sentFrom = "/habitats/new/";
  tell("DOMContentLoaded", {});
  assert.equal(window.shown, "/habitats/new/");
});
