// The entries of a round that wait on a phone.
import assert from "node:assert/strict";
import { createRequire } from "node:module";
import test from "node:test";

const queue = createRequire(import.meta.url)("../../ridgeback/static/js/round-queue.js");
const entry = (key, more = {}) => ({ key, at: "2026-11-29T10:00:00.000Z", what: "chore", habitat: 1, ...more });

test("an entry keeps the moment of its press", () => {
  const made = queue.made("chore", { habitat: 4, job: "water" }, new Date("2026-11-29T10:00:00Z"), "abc");
  assert.deepEqual(made, { key: "abc", at: "2026-11-29T10:00:00.000Z", what: "chore", habitat: 4, job: "water" });
});

test("the same press twice is one, and the oldest is sent first", () => {
  const list = queue.added(queue.added(queue.added([], entry("a")), entry("b")), entry("a"));
  assert.deepEqual(list.map((one) => one.key), ["a", "b"]);
  assert.deepEqual(queue.batch(list, 1).map((one) => one.key), ["a"]);
});

test("what is written or known goes, what has no answer stays, what is asked or refused waits for the keeper", () => {
  const list = ["a", "b", "c", "d", "e"].map((key) => entry(key));
  const answers = [
    { key: "a", state: "written" }, { key: "b", state: "already" }, { key: "c", state: "refused", said: "No." }, { key: "d", state: "asked", said: "Is it so?" },
  ];
  const left = queue.after(list, answers);
  assert.deepEqual(left.map((one) => [one.key, one.asked, one.failed]), [["c", "No.", true], ["d", "Is it so?", undefined], ["e", undefined, undefined]]);
  assert.deepEqual(queue.batch(left).map((one) => one.key), ["e"]);
  assert.deepEqual(queue.without(left, "c").map((one) => one.key), ["d", "e"]);
});

test("what the keeper is sure of is another press and goes without the question", () => {
  const left = queue.sure([entry("d", { asked: "Is it so?", value: "4500" })], "d", "f");
  assert.deepEqual(queue.batch(left), [entry("f", { value: "4500", sure: true })]);
});
