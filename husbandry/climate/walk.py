"""The stepping through a day: from one look, switch or turn of a thermostat to the next, exactly in the modes. Compiled."""

from typing import Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from husbandry.climate.compiled import compiled
from husbandry.climate.corrections import CHANGE, HEAT, Held, Moment, again, find_steepest, look, switched
from husbandry.climate.day_water import CONDENSES, NOW, Water
from husbandry.climate.terms import Ints, Terms
from husbandry.climate.thermostats import LookAhead, dim, turns_after

Floats = NDArray[np.float64]

DAY: Final = 1440
STILL_K: Final = 0.1  # a correction that moves its node by less than this is held twice as long
COLDEST_C, HOTTEST_C = -45.0, 400.0  # beyond which a day is stepped again with care: a lamp all but on the stone
AFTER_SWITCH: Final = (1, 1, 2, 2, 3, 3, 4, 4, 5, 5, 5, 10)  # minutes between the looks after a timer has switched
LEAST_HELD: Final = 5  # minutes, long after a switch
ENDED, OVERSHOT, SWINGS = range(3)  # how a walk ends

# Places along the first axis of `Track.steps`, `State.modal` and `State.node`.
DECAY, GROWN, HALF_DECAY, HALF_GROWN = range(4)
CORRECTION, FRESH, BASE = range(3)
NOW_C, AHEAD_C, OTHER_W = range(3)


class Track(NamedTuple):
    """What a walk reads and never writes to: the corrections' terms, the modes, the room, what thermostats foresee.

    `to_nodes` (n, modes) and `to_modes` (modes, n); `steps` (4, LONGEST + 1, modes): what modes and their forcing come to after
    whole minutes, and after half of so many; `room` (1440, 1 + n): the room in °C, then what it alone makes of the nodes.
    """

    terms: Terms
    to_nodes: Floats
    to_modes: Floats
    steps: Floats
    room: Floats
    thermostats: LookAhead


class Events(NamedTuple):
    """The minutes at which a timer, a set point or the light changes (k,), the last the end; `limits` (k − 1, 2, heaters + 1):
    what the heaters and the sun may then give, and what probes should read. `first` is the minute of the clock at which it
    begins, `longest` the longest time in minutes that corrections are held; with `careful` it is stepped minute by minute.
    """

    times: Ints
    limits: Floats
    first: int
    longest: int
    careful: bool


class State(NamedTuple):
    """What a step changes: the modes and behind them their forcing (2 modes,), which on/off thermostats are on, what is given.

    `modal` (3, modes): the correction that is held, the last one looked up, and the forcing by heaters and sun; `node` (3, n): °C
    now and ahead, and W to work with.
    """

    reach: Floats
    modal: Floats
    node: Floats
    on: NDArray[np.bool_]
    given: Floats


class Record(NamedTuple):
    """What happened, by segment: where each begins, the reach and what was given in it; by look: the minute and how vapour goes on.

    `swings` (3 + n,) is how steep the corrections are where they swing.
    """

    begins: Ints
    reach: Floats
    given: Floats
    looks: Floats
    swings: Floats


@compiled
def _times(matrix: Floats, vector: Floats, found: Floats) -> None:
    """Set `found` to a matrix times a vector."""
    for i in range(matrix.shape[0]):
        total = 0.0
        for k in range(matrix.shape[1]):
            total += matrix[i, k] * vector[k]
        found[i] = total


@compiled
def _force(track: Track, state: State, row: int) -> None:
    """Set the forcing: heaters and sun, a correction, and what dims."""
    size = state.modal.shape[1]
    for mode in range(size):
        state.reach[size + mode] = state.modal[BASE, mode] + state.modal[row, mode]
    for place in range(track.thermostats.smooth.size):
        heater = track.thermostats.smooth[place]
        for mode in range(size):
            state.reach[size + mode] += track.thermostats.inputs[mode, heater] * state.given[heater]


@compiled
def _turned(held: LookAhead, state: State, most: Floats) -> None:
    """Set what the heaters give now that a timer or an on/off thermostat has turned; those that dim go on as they went."""
    size = state.modal.shape[1]
    for mode in range(size):
        state.modal[BASE, mode] = 0.0
    for heater in range(most.size):
        dims, share = False, most[heater]
        for place in range(held.smooth.size):
            dims = dims or held.smooth[place] == heater
        for place in range(held.cycling.size):
            if held.cycling[place] == heater and not state.on[place]:
                share = 0.0
        if not dims:
            state.given[heater] = share
            for mode in range(size):
                state.modal[BASE, mode] += held.inputs[mode, heater] * share


@compiled
def _foresee(track: Track, state: State, clock: int, minutes: int) -> None:
    """Set what the nodes have halfway through the next minutes, °C."""
    size = state.modal.shape[1]
    later = (clock + minutes) % DAY
    for i in range(state.node.shape[1]):
        total = (track.room[clock, 1 + i] + track.room[later, 1 + i]) / 2.0
        for k in range(size):
            at = track.steps[HALF_DECAY, minutes, k] * state.reach[k] + track.steps[HALF_GROWN, minutes, k] * state.reach[size + k]
            total += track.to_nodes[i, k] * at
        state.node[AHEAD_C, i] = total


@compiled
def _wild(celsius: Floats) -> bool:
    """Tell whether what is held has overshot: no enclosure is so cold or so hot."""
    wild = False
    for i in range(celsius.size):
        wild = wild or not COLDEST_C < celsius[i] < HOTTEST_C
    return wild


@compiled
def _hold(track: Track, state: State, water: Water, held: Held, at: Moment, swings: Floats) -> int:
    """Work the corrections out anew, to be held from a moment on; return how it ends, and in `swings` how steep they are."""
    size, ahead, now = state.modal.shape[1], state.node[AHEAD_C], state.node[NOW_C]
    _times(track.to_nodes, state.reach, now)
    for i in range(now.size):
        now[i] += track.room[at.clock, 1 + i]
    if not at.careful and _wild(now):
        return OVERSHOT
    # Vapour follows within minutes: its balance is that of the middle of the time, as far as it is foreseen.
    _force(track, state, CORRECTION)
    _foresee(track, state, at.clock, at.minutes)
    if look(track.terms, water, held, now, ahead, at):
        find_steepest(track.terms, water, now, at, swings)
        return SWINGS
    # Where nothing has switched since, the correction goes on as it went.
    lead = at.minutes / (2.0 * at.before) if at.before > 0 and not at.careful and not at.soon else 0.0
    for mode in range(size):
        state.modal[CORRECTION, mode] = -lead * state.modal[FRESH, mode]
    _times(track.to_modes, held.node[HEAT], state.modal[FRESH])
    for mode in range(size):
        state.modal[CORRECTION, mode] += (1.0 + lead) * state.modal[FRESH, mode]
    if at.soon:
        # What the middle of the time will need.
        _force(track, state, FRESH)
        _foresee(track, state, at.clock, at.minutes)
        if not at.careful and _wild(ahead):
            return OVERSHOT
        again(track.terms, water, held, ahead, at, state.node[OTHER_W])
        _times(track.to_modes, state.node[OTHER_W], state.modal[CORRECTION])
    for mode in range(size):
        state.reach[size + mode] = state.modal[BASE, mode] + state.modal[CORRECTION, mode]
    return ENDED


@compiled
def _pace(step: int, pace: int, longest: int, still: bool, careful: bool) -> int:
    """The minutes until the next look: few after a switch, and more where little moves."""
    if careful:
        return 1
    if pace < len(AFTER_SWITCH):
        return min(AFTER_SWITCH[pace], longest // 2)
    return min(2 * step, longest) if still else max(step // 2, LEAST_HELD)


@compiled
def _looked(record: Record, looks: int, minute: int, water: Water) -> None:
    """Put on record what the water's books say at a minute."""
    record.looks[looks, 0] = minute
    for k in range(4):
        record.looks[looks, 1 + k] = water.books[NOW + k]


@compiled
def walk(track: Track, events: Events, state: State, water: Water, held: Held, record: Record) -> tuple[int, int, int]:
    """Step through all the time there is; return how it ended, and how many segments and looks are on record."""
    longest, careful = events.longest, events.careful
    times, size, eyes = events.times, state.modal.shape[1], track.thermostats
    minute = index = looked = pace = held_for = step = segments = looks = 0
    clock, turned, wet, fresh = events.first, False, False, True
    limits = events.limits[0]
    while minute < times[times.size - 1]:
        if minute == times[index]:
            limits = events.limits[index]
            for place in range(state.on.size):
                state.on[place] = state.on[place] and limits[0, eyes.cycling[place]] > 0.0
            switched(held)
            index, looked, pace, fresh = index + 1, minute, 0, True
        if fresh:
            _turned(eyes, state, limits[0])
            _force(track, state, CORRECTION)
            fresh = False
        if minute == looked:
            step, pace = _pace(step, pace, longest, held.marks[CHANGE] < STILL_K, careful), pace + 1
            looked = min(minute + step, times[index])
            before_for, held_for = 0 if turned else held_for, looked - minute
            room_c, halfway_c = track.room[clock, 0], track.room[(clock + held_for // 2) % DAY, 0]
            at = Moment(clock, held_for, room_c, halfway_c, before_for, pace <= len(AFTER_SWITCH), careful)
            turned = False
            ended = _hold(track, state, water, held, at, record.swings)
            if ended != ENDED:
                return ended, segments, looks
            if eyes.smooth.size > 0:
                dim(eyes, state.reach, state.given, limits, clock)
                _force(track, state, CORRECTION)
            _looked(record, looks, minute, water)
            looks += 1
            if wet != (water.books[CONDENSES] > 0.0):  # walls begin to sweat, or have dried
                wet, pace = not wet, min(pace, 2)
        record.begins[segments] = minute
        for k in range(2 * size):
            record.reach[segments, k] = state.reach[k]
        for k in range(state.given.size):
            record.given[segments, k] = state.given[k]
        segments += 1
        ahead = turns_after(eyes, state.reach, state.on, limits, clock, looked - minute)
        if ahead < 0:
            ahead = -ahead
            fresh = turned = True
            switched(held)
        for k in range(size):
            state.reach[k] = track.steps[DECAY, ahead, k] * state.reach[k] + track.steps[GROWN, ahead, k] * state.reach[size + k]
        minute += ahead
        clock = (clock + ahead) % DAY
    return ENDED, segments, looks
