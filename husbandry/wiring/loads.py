"""What hangs on each strip and circuit, what is wrong with it, and what goes dark when one fails."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Final

from husbandry.climate.heaters import HEATERS
from husbandry.wiring.consumers import CARRIES_W, Consumer
from husbandry.wiring.settings import Wiring

CONTINUOUS_H: Final = (
    3.0  # on for longer, a breaker is loaded to four fifths at most (NEC, article 210.20(A); a good rule elsewhere)
)
CONTINUOUS_SHARE: Final = 0.8
TRIPS_AT: Final = 3.0  # times its rating, from which a breaker may let go at once (type B: 3 to 5 times; IEC 60898-1, from memory)
PERSON_MA: Final = 30.0  # the most a residual-current device may let through that protects people (IEC 60364-4-41, from memory)
Rooms = Mapping[str, tuple[Consumer, ...]]  # consumers by the habitat's key


class Trouble(StrEnum):
    """What is wrong with a room's wiring."""

    STRIP_OVER = "strip-over"
    STRIP_HIGH = "strip-high"
    CIRCUIT_OVER = "circuit-over"
    CIRCUIT_HIGH = "circuit-high"
    INRUSH = "inrush"
    SOCKETS = "sockets"
    NO_RESIDUAL = "no-residual"
    THERMOSTAT_OVER = "thermostat-over"
    THERMOSTAT_UNSUITED = "thermostat-unsuited"
    UNCONTROLLED = "uncontrolled"
    UNPLUGGED = "unplugged"
    ONE_STRIP = "one-strip"


SAFETY: Final = (
    Trouble.STRIP_OVER,
    Trouble.CIRCUIT_OVER,
    Trouble.NO_RESIDUAL,
    Trouble.THERMOSTAT_OVER,
    Trouble.UNCONTROLLED,
    Trouble.THERMOSTAT_UNSUITED,
)


@dataclass(frozen=True)
class WiringFault:
    """One trouble: of which strip or circuit (`name`) or which habitat's consumer, with its numbers in A, W or pieces."""

    what: Trouble
    name: str = ""
    habitat: str = ""
    consumer: Consumer | None = None
    amount: float = 0.0
    limit: float = 0.0


@dataclass(frozen=True)
class Load:
    """What hangs on a strip or a circuit: W and A with everything on, the A that stay on for hours, the A of one moment."""

    name: str
    watts: float
    amps: float
    long_amps: float
    start_amps: float
    pieces: int


@dataclass(frozen=True)
class Dark:
    """What one habitat loses with a strip: its consumers on it, whether that is all its warmth, and all its light."""

    habitat: str
    lost: tuple[Consumer, ...]
    all_warmth: bool
    all_light: bool


def plugged_into(wiring: Wiring, rooms: Rooms, strip: str) -> list[Consumer]:
    """The consumers on one strip, of all habitats."""
    return [
        one
        for habitat, there in rooms.items()
        for one in there
        if one.key in wiring.fed(habitat).plugs and wiring.fed(habitat).plugs[one.key].strip == strip
    ]


def load_of(name: str, there: list[Consumer], volts: float, other_w: float = 0.0) -> Load:
    """What some consumers and `other_w` besides come to together."""
    lasting = [one for one in there if one.hours >= CONTINUOUS_H]
    other_a = other_w / volts
    return Load(
        name,
        sum(one.watts for one in there) + other_w,
        sum(one.amps(volts) for one in there) + other_a,
        sum(one.amps(volts) for one in lasting) + other_a,
        sum(one.start_amps(volts) for one in there) + other_a,
        len(there),
    )


def strip_loads(wiring: Wiring, rooms: Rooms) -> dict[str, Load]:
    """Return what hangs on each strip, all at full power.

    Parameters
    ----------
    wiring
        The room's electricity.
    rooms
        The consumers of each habitat, by its key.

    Returns
    -------
    Load by the strip's name; W and A.

    References
    ----------
    I = P / (U · power factor).
    """
    return {one.name: load_of(one.name, plugged_into(wiring, rooms, one.name), wiring.volts) for one in wiring.strips}


def circuit_loads(wiring: Wiring, rooms: Rooms) -> dict[str, Load]:
    """Return what hangs on each circuit, with what else the keeper says is on it; like `strip_loads`."""
    found = {}
    for circuit in wiring.circuits:
        there = [one for strip in wiring.strips if strip.circuit == circuit.name for one in plugged_into(wiring, rooms, strip.name)]
        found[circuit.name] = load_of(circuit.name, there, wiring.volts, circuit.other_w)
    return found


def faults(wiring: Wiring, rooms: Rooms) -> tuple[WiringFault, ...]:
    """Return what is wrong, what can harm first.

    Parameters
    ----------
    wiring, rooms
        As for `strip_loads`.

    Returns
    -------
    WiringFault; none where all is well.

    References
    ----------
    Continuous loads: NEC 210.20(A). Instant tripping: IEC 60898-1 type B. 30 mA: IEC 60364-4-41. From memory; local code decides.
    """
    found = [*_of_strips(wiring, rooms), *_of_circuits(wiring, rooms), *_of_consumers(wiring, rooms)]
    return tuple(sorted(found, key=lambda one: (one.what not in SAFETY, list(Trouble).index(one.what))))


def _of_strips(wiring: Wiring, rooms: Rooms) -> list[WiringFault]:
    loads, found = strip_loads(wiring, rooms), []
    for strip in wiring.strips:
        load = loads[strip.name]
        if load.amps > strip.rated_a:
            found.append(WiringFault(Trouble.STRIP_OVER, strip.name, amount=load.amps, limit=strip.rated_a))
        elif load.long_amps > CONTINUOUS_SHARE * strip.rated_a:
            found.append(WiringFault(Trouble.STRIP_HIGH, strip.name, amount=load.long_amps, limit=CONTINUOUS_SHARE * strip.rated_a))
        if load.pieces > strip.sockets:
            found.append(WiringFault(Trouble.SOCKETS, strip.name, amount=load.pieces, limit=strip.sockets))
    return found


def _of_circuits(wiring: Wiring, rooms: Rooms) -> list[WiringFault]:
    loads, found = circuit_loads(wiring, rooms), []
    for circuit in wiring.circuits:
        load = loads[circuit.name]
        if load.amps > circuit.breaker_a:
            found.append(WiringFault(Trouble.CIRCUIT_OVER, circuit.name, amount=load.amps, limit=circuit.breaker_a))
        elif load.long_amps > CONTINUOUS_SHARE * circuit.breaker_a:
            most = CONTINUOUS_SHARE * circuit.breaker_a
            found.append(WiringFault(Trouble.CIRCUIT_HIGH, circuit.name, amount=load.long_amps, limit=most))
        if load.start_amps > TRIPS_AT * circuit.breaker_a:
            found.append(WiringFault(Trouble.INRUSH, circuit.name, amount=load.start_amps, limit=TRIPS_AT * circuit.breaker_a))
        if load.pieces and (circuit.residual_ma is None or circuit.residual_ma > PERSON_MA):
            found.append(WiringFault(Trouble.NO_RESIDUAL, circuit.name, amount=circuit.residual_ma or 0.0, limit=PERSON_MA))
    return found


def _of_consumers(wiring: Wiring, rooms: Rooms) -> list[WiringFault]:
    found = []
    for habitat, there in rooms.items():
        plugs = wiring.fed(habitat).plugs
        for one in there:
            plug = plugs.get(one.key)
            if plug is None:
                found.append(WiringFault(Trouble.UNPLUGGED, "", habitat, one))
            if one.control:
                carries = CARRIES_W[one.control] if plug is None or plug.carries_w is None else plug.carries_w
                if one.watts > carries:
                    found.append(WiringFault(Trouble.THERMOSTAT_OVER, "", habitat, one, one.watts, carries))
            if one.kind in HEATERS:
                suits = HEATERS[one.kind].controls
                if one.control and one.control not in suits:
                    found.append(WiringFault(Trouble.THERMOSTAT_UNSUITED, suits[0], habitat, one))
                elif not one.control and "none" not in suits:
                    found.append(WiringFault(Trouble.UNCONTROLLED, suits[0], habitat, one))
        warm = [one for one in there if one.heats]
        on = {plugs[one.key].strip for one in warm if one.key in plugs}
        if len(warm) > 1 and len(on) == 1 and all(one.key in plugs for one in warm):
            found.append(WiringFault(Trouble.ONE_STRIP, next(iter(on)), habitat, amount=len(warm)))
    return found


def dark_without(wiring: Wiring, rooms: Rooms, strip: str) -> tuple[Dark, ...]:
    """Return what each habitat loses when a strip fails.

    Parameters
    ----------
    wiring, rooms
        As for `strip_loads`.
    strip
        Its name.

    Returns
    -------
    Dark, for each habitat that loses something.

    References
    ----------
    What is on a strip goes out with it.
    """
    found = []
    for habitat, there in rooms.items():
        plugs = wiring.fed(habitat).plugs
        lost = tuple(one for one in there if one.key in plugs and plugs[one.key].strip == strip)
        if lost:
            left = [one for one in there if one not in lost]
            warm, lit = any(one.heats for one in there), any(_lights(one) for one in there)
            found.append(
                Dark(habitat, lost, warm and not any(one.heats for one in left), lit and not any(_lights(one) for one in left))
            )
    return tuple(found)


def _lights(one: Consumer) -> bool:
    return one.key.startswith(("uv_lamps.", "light_bars.")) or (one.kind in HEATERS and HEATERS[one.kind].light)
