// Parts moved faster than the server answers: what is sent, in which order, and where a part may stand.
import assert from "node:assert/strict";
import test from "node:test";

import "../../ridgeback/static/js/moving.js";

const { measurable, newestFirst, placed } = globalThis.moving;

/* A server that answers when told to; `sent` is what arrived. */
function server() {
  const sent = [];
  const open = [];
  let ended = 0;
  const send = newestFirst(
    (what, save) => {
      sent.push(save ? `${what}, saved` : what);
      return new Promise((resolve, reject) => open.push({ resolve, reject }));
    },
    () => {
      ended += 1;
    },
  );
  const answer = async (how = "resolve") => {
    open.shift()[how](how === "reject" ? new Error("the server is away") : undefined);
    await new Promise(setImmediate);
  };
  return { sent, send, answer, ended: () => ended };
}

test("while one is under way only the newest waits", async () => {
  const { sent, send, answer, ended } = server();
  for (const place of ["1 cm", "2 cm", "3 cm", "4 cm"]) send(place, false);
  assert.deepEqual(sent, ["1 cm"]);
  await answer();
  assert.deepEqual(sent, ["1 cm", "4 cm"]);
  await answer();
  assert.deepEqual(sent, ["1 cm", "4 cm"]);
  assert.equal(ended(), 2);
});

test("a save that waits is saved, also where the hand moves on before it is sent", async () => {
  const { sent, send, answer } = server();
  send("1 cm", false);
  send("2 cm", true);
  send("3 cm", false);
  await answer();
  assert.deepEqual(sent, ["1 cm", "3 cm, saved"]);
  await answer();
  send("4 cm", false);
  assert.deepEqual(sent, ["1 cm", "3 cm, saved", "4 cm"]);
});

test("a server that is away stops nothing that comes later", async () => {
  const { sent, send, answer } = server();
  send("1 cm", true);
  send("2 cm", true);
  await answer("reject");
  assert.deepEqual(sent, ["1 cm, saved", "2 cm, saved"]);
  await answer("reject");
  send("3 cm", false);
  assert.deepEqual(sent.at(-1), "3 cm");
});

test("a part stays inside, and moves only along what it moves by", () => {
  const limits = { length: 1.2, ceiling: 0.45, width: 0.6 };
  const lamp = { x: 0.3, h: 0.4 };
  assert.deepEqual(placed({ ...lamp, moves: "both" }, { x: 2, h: -0.1 }, limits), { x: 1.2, h: 0 });
  assert.deepEqual(placed({ ...lamp, moves: "x" }, { x: 0.5, h: 0.1 }, limits), { x: 0.5, h: 0.4 });
  assert.deepEqual(placed({ ...lamp, moves: "h" }, { x: 0.5, h: 0.1 }, limits), { x: 0.3, h: 0.1 });
  assert.deepEqual(placed({ ...lamp, moves: "floor" }, { x: 0.5, h: 0.9 }, limits), { x: 0.5, h: 0.6 });
});

test("a hand puts a part where one would measure it out, in the keeper's own measure", () => {
  assert.equal(measurable(0.76617, 0.005), 0.765);
  assert.equal(measurable(0.76617, 0.00635), 0.76835); // thirty inches and a quarter
  assert.equal(measurable(-0.0012, 0.005), 0);
  assert.equal(measurable(0.76617, NaN), 0.76617); // a page of before
});
