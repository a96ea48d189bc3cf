"""Compile what is compiled, once for a state of the sources: `python -m husbandry.climate.precompile`; some twenty seconds."""

from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, RoomState
from husbandry.climate.day import course
from husbandry.climate.steady import solve_steady


def precompile() -> None:
    """Step through the day of a small box with a lamp on a thermostat: whatever its furniture, it is the same machine code."""
    room = RoomState(22.0, 20.0, 50.0)
    spot = BaskingSpot(0.2, 0.2, 0.05, "stone")
    held = HeaterCase("halogen-flood", 75.0, 0.2, 0.35, 25.0, 8.0, 20.0, "dimming", 35.0)
    case = EnclosureCase(
        "glass", "solid", 1.0, 0.6, 0.4, 0.4, "soil", 0.05, False, spot, (held,), {"summer": room, "winter": room}, 8.0, 20.0
    )
    course(case, solve_steady(case, spread=False), "winter")


if __name__ == "__main__":
    precompile()
