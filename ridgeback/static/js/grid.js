/* Reading a grid of numbers that the server worked out: what stands between its points. No reckoning of its own. */
"use strict";

(function (root) {
  /* The value at (x, y), each 0 to 1, of rows from the bottom up; between points by straight lines, beyond them the edge's. */
  function between(grid, x, y) {
    const rows = grid.length - 1;
    const columns = grid[0].length - 1;
    const across = Math.min(Math.max(x, 0), 1) * columns;
    const up = Math.min(Math.max(y, 0), 1) * rows;
    const c = Math.min(Math.floor(across), Math.max(columns - 1, 0));
    const r = Math.min(Math.floor(up), Math.max(rows - 1, 0));
    const along = (row) => (columns ? row[c] * (1 - (across - c)) + row[c + 1] * (across - c) : row[c]);
    return rows ? along(grid[r]) * (1 - (up - r)) + along(grid[r + 1]) * (up - r) : along(grid[r]);
  }

  /* The value in layers from the top down, at a depth 0 to 1: within a layer it is the same, along it straight lines. */
  function inLayers(layers, x, depth) {
    const layer = layers[Math.min(Math.floor(Math.max(depth, 0) * layers.length), layers.length - 1)];
    return between([layer], x, 0);
  }

  /* A number with so many digits and the mark that its reader writes decimals with. */
  function written(value, digits, mark) {
    return value.toFixed(digits).replace(".", mark || ".");
  }

  /* "29.2 °C" */
  function said(value, shown, mark) {
    return `${written(value, shown.digits, mark)} ${shown.symbol}`;
  }

  root.gridReading = { between, inLayers, said, written };
})(typeof window === "undefined" ? globalThis : window);
