"""What is on no strip yet, spread over the strips there are: none overloaded, the warmth of one animal not all on one."""

from husbandry.wiring.consumers import Consumer
from husbandry.wiring.loads import CONTINUOUS_SHARE, TRIPS_AT, Rooms, circuit_loads, strip_loads
from husbandry.wiring.settings import Feed, Plug, Wiring


def spread(wiring: Wiring, rooms: Rooms) -> Wiring:
    """Return the wiring with every consumer plugged in that fits.

    Parameters
    ----------
    wiring
        The room's electricity; what is plugged in already stays there.
    rooms
        The consumers of each habitat, by its key.

    Returns
    -------
    Wiring. What fits nowhere within four fifths of strip and breaker, and its sockets, stays on no strip.

    References
    ----------
    The limits are those of `husbandry.wiring.loads`.
    """
    waiting = [(habitat, one) for habitat, there in rooms.items() for one in there if one.key not in wiring.fed(habitat).plugs]
    for habitat, one in sorted(waiting, key=lambda pair: -pair[1].watts):
        best = min(
            (strip.name for strip in wiring.strips if _fits(wiring, rooms, strip.name, one)),
            key=lambda name: (_company(wiring, rooms, habitat, one, name), strip_loads(wiring, rooms)[name].amps),
            default=None,
        )
        if best is not None:
            feed = wiring.fed(habitat)
            plugs = feed.plugs | {one.key: Plug(strip=best, timer=bool(one.starts) and not one.control)}
            feeds = wiring.feeds | {habitat: Feed(floor_m=feed.floor_m, away_m=feed.away_m, plugs=plugs)}
            wiring = wiring.model_copy(update={"feeds": feeds})
    return wiring


def _company(wiring: Wiring, rooms: Rooms, habitat: str, one: Consumer, strip: str) -> int:
    """How much of the same animal's warmth, or of its light, hangs on a strip already."""
    plugs = wiring.fed(habitat).plugs
    return sum(other.heats == one.heats and other.key in plugs and plugs[other.key].strip == strip for other in rooms[habitat])


def _fits(wiring: Wiring, rooms: Rooms, name: str, one: Consumer) -> bool:
    """Tell whether a strip, and its circuit, bear one more."""
    strip, load = wiring.strip(name), strip_loads(wiring, rooms)[name]
    circuit = next(item for item in wiring.circuits if item.name == strip.circuit)
    whole, more = circuit_loads(wiring, rooms)[circuit.name], one.amps(wiring.volts)
    return (
        load.pieces < strip.sockets
        and load.amps + more <= CONTINUOUS_SHARE * strip.rated_a
        and whole.amps + more <= CONTINUOUS_SHARE * circuit.breaker_a
        and whole.start_amps + one.start_amps(wiring.volts) <= TRIPS_AT * circuit.breaker_a
    )
