"""What is on no strip yet, spread over the strips there are: none overloaded, the warmth of one animal not all on one."""

from collections.abc import Mapping, Sequence

from husbandry.wiring.consumers import Consumer
from husbandry.wiring.loads import CONTINUOUS_SHARE, TRIPS_AT, Rooms, load_of, plugged_into
from husbandry.wiring.settings import HabitatFeed, Plug, Strip, Wiring


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
    on = {strip.name: plugged_into(wiring, rooms, strip.name) for strip in wiring.strips}
    feeds = dict(wiring.feeds)
    waiting = [(habitat, one) for habitat, there in rooms.items() for one in there if one.key not in wiring.fed(habitat).plugs]
    for habitat, one in sorted(waiting, key=lambda pair: -pair[1].watts):
        feed = feeds.get(habitat, HabitatFeed())
        plugs = feed.plugs
        best = min(
            (strip.name for strip in wiring.strips if _fits(wiring, on, strip, one)),
            key=lambda name: (_company(plugs, rooms[habitat], one, name), load_of(name, on[name], wiring.volts).amps),
            default=None,
        )
        if best is not None:
            on[best].append(one)
            plug = Plug(strip=best, timer=bool(one.starts) and not one.control)
            feeds[habitat] = feed.model_copy(update={"plugs": plugs | {one.key: plug}})
    return wiring.model_copy(update={"feeds": feeds})


def _company(plugs: Mapping[str, Plug], there: Sequence[Consumer], one: Consumer, strip: str) -> int:
    """How much of the same animal's warmth, or of its light, hangs on a strip already."""
    return sum(other.heats == one.heats and other.key in plugs and plugs[other.key].strip == strip for other in there)


def _fits(wiring: Wiring, on: Mapping[str, list[Consumer]], strip: Strip, one: Consumer) -> bool:
    """Tell whether a strip, and its circuit, bear one more."""
    if len(on[strip.name]) >= strip.sockets:
        return False
    circuit = next(item for item in wiring.circuits if item.name == strip.circuit)
    beside = [other for item in wiring.strips if item.circuit == circuit.name for other in on[item.name]]
    load = load_of(strip.name, on[strip.name], wiring.volts)
    whole = load_of(circuit.name, beside, wiring.volts, circuit.other_w)
    more = one.amps(wiring.volts)
    return (
        load.amps + more <= CONTINUOUS_SHARE * strip.rated_a
        and whole.amps + more <= CONTINUOUS_SHARE * circuit.breaker_a
        and whole.start_amps + one.start_amps(wiring.volts) <= TRIPS_AT * circuit.breaker_a
    )
