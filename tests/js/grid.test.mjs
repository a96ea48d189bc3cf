// The pointer's readings: what stands between the points of a grid.
import assert from "node:assert/strict";
import test from "node:test";

import "../../ridgeback/static/js/grid.js";

const { between, inLayers, said } = globalThis.gridReading;
const PLANE = [
  [0, 10, 20],
  [100, 110, 120],
]; // 20 x + 100 y

test("a plane is read exactly, at its points and between them", () => {
  for (const [x, y] of [[0, 0], [1, 1], [0.5, 0], [0.25, 0.5], [0.9, 0.1]]) {
    assert.ok(Math.abs(between(PLANE, x, y) - (20 * x + 100 * y)) < 1e-9, `${x}, ${y}`);
  }
});

test("beyond the edges the edge's value is read", () => {
  assert.equal(between(PLANE, -3, 0), 0);
  assert.equal(between(PLANE, 2, 5), 120);
});

test("one row and one point are grids too", () => {
  assert.equal(between([[4, 8]], 0.5, 0.7), 6);
  assert.equal(between([[7]], 0.3, 0.3), 7);
});

test("a layer is the same through its depth, and the deepest has no end", () => {
  const layers = [[30, 26], [25, 23], [22, 22]];
  assert.equal(inLayers(layers, 0, 0), 30);
  assert.equal(inLayers(layers, 0.5, 0.32), 28);
  assert.equal(inLayers(layers, 1, 0.34), 23);
  assert.equal(inLayers(layers, 1, 1.5), 22);
  assert.equal(inLayers(layers, 0, -0.2), 30);
});

test("a value is said with the digits and the sign of the keeper's unit", () => {
  assert.equal(said(29.24, { digits: 1, symbol: "°C" }), "29.2 °C");
  assert.equal(said(84.6, { digits: 0, symbol: "°F" }), "85 °F");
});
