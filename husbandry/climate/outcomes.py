"""What a day comes to: how soon it is warm, how long it stays in band, how far it strays; each with its draws.

A curve of the day is drawn by shifting it: at night by what the draw does to the steady night, by day to the steady
day, in between by how far the curve itself has gone from one to the other. Checked against whole days stepped with drawn
parameters in tests/core/test_spread.py.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

STEP: Final = 5  # minutes between the points of drawn curves
SOME: Final = 128  # of the draws that curves are drawn for
APART_K: Final = 0.5  # between day and night, below which the light tells how far the curve has gone


def drawn_curves(curve: Floats, lit: NDArray[np.bool_], day: tuple[float, Floats], night: tuple[float, Floats]) -> Floats:
    """Return curves (SOME, 288), every five minutes from 00:05, out of one by the minute (1440,).

    `lit` (1440,) tells day from night; `day` and `night` are the steady value and its draws.

    Parameters
    ----------
    curve
        °C by the minute, shape (1440,).
    lit
        Which minutes are light, shape (1440,).
    day, night
        The steady value and its draws, shape (SOME,).

    Returns
    -------
    Shape (SOME, 288), in the unit of `curve`.

    References
    ----------
    A day shifted by its phase's draw; checked against drawn enclosures in the tests.
    """
    thin, by_day = curve[STEP - 1 :: STEP], lit[STEP - 1 :: STEP].astype(float)
    apart = day[0] - night[0]
    gone = np.clip((thin - night[0]) / apart, 0.0, 1.0) if abs(apart) > APART_K else by_day
    shift_day, shift_night = day[1][:SOME, None] - day[0], night[1][:SOME, None] - night[0]
    return np.asarray(thin + shift_night + (shift_day - shift_night) * gone)


def minutes_until(curves: Floats, lights_on_hour: float, least: float) -> Floats:
    """Return the minutes from lights-on until each curve (N, T even steps over 24 h) reaches `least`; nan where it never does.

    Parameters
    ----------
    curves
        °C, shape (N, T), in even steps over 24 h.
    lights_on_hour
        Hour of the day.
    least
        °C.

    Returns
    -------
    Minutes, shape (N,).

    References
    ----------
    Linear interpolation between steps (numpy); no source outside.
    """
    steps = curves.shape[1]
    span = 24 * 60 / steps
    first = round(lights_on_hour * 60 / span) - 1  # the step that ends with lights-on
    turned = np.roll(curves, -first, axis=1)
    above = turned >= least
    at = above.argmax(axis=1)
    rows = np.arange(len(curves))
    before, after = turned[rows, np.maximum(at - 1, 0)], turned[rows, at]
    part = np.where(after > before, (after - least) / np.where(after > before, after - before, 1.0), 0.0)
    found = np.maximum(at - np.clip(part, 0.0, 1.0), 0.0) * span
    return np.where(above.any(axis=1), found, np.nan)


def share_within(curves: Floats, counted: NDArray[np.bool_], low: Floats | float, high: Floats | float) -> Floats:
    """Return the share (N,) of the counted times (T,) that curves (N, T) stand between the limits (T,).

    Parameters
    ----------
    curves
        °C, shape (N, T).
    counted
        Which times count, shape (T,).
    low, high
        Limits in °C, one or by time.

    Returns
    -------
    Shares 0–1, shape (N,).

    References
    ----------
    A mean of hits; no source outside.
    """
    inside = (curves >= low) & (curves <= high)
    return np.asarray(inside[:, counted].mean(axis=1)) if counted.any() else np.zeros(len(curves))
