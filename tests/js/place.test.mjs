// A page that is loaded anew after one of its own forms was sent stands where it stood.
import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { runInThisContext } from "node:vm";
import test, { beforeEach } from "node:test";

const heard = {};
const store = new Map();
let alert = null;
let stood = [];
globalThis.document = { addEventListener: (type, handler) => (heard[type] = handler), querySelector: () => alert };
globalThis.window = {
  location: { pathname: "/calendar/", hash: "" },
  scrollY: 0,
  scrollTo: (_x, y) => stood.push(y),
  sessionStorage: {
    setItem: (key, value) => store.set(key, value),
    getItem: (key) => store.get(key) ?? null,
    removeItem: (key) => store.delete(key),
  },
};
const script = readFileSync(new URL("../../ridgeback/static/js/place.js", import.meta.url), "utf8");
const load = () => runInThisContext(script); // a page that is loaded anew
const send = (event) => heard.submit({ defaultPrevented: false, target: { method: "post" }, ...event });

beforeEach(() => {
  store.clear();
  stood = [];
  alert = null;
  Object.assign(window.location, { pathname: "/calendar/", hash: "" });
  load();
  window.scrollY = 1303;
});

test("after a chore was written down the list stands where it stood, once", () => {
  send({});
  load();
  load();
  assert.deepEqual(stood, [1303]);
});

test("another page, a named place and a page with something to tell begin where they do", () => {
  send({});
  window.location.pathname = "/pantry/";
  load();
  send({});
  window.location.hash = "#round-water";
  load();
  window.location.hash = "";
  send({});
  alert = {};
  load();
  assert.deepEqual(stood, []);
});

test("what a script answers, and a search, keep no place", () => {
  send({ defaultPrevented: true });
  send({ target: { method: "get" } });
  load();
  assert.deepEqual(stood, []);
});
