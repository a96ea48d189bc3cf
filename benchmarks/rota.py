"""A year of the rota for 200 animals of every kind: seconds and memory.

Run by hand: `PYTHONPATH=. .venv-test/bin/python benchmarks/rota.py`. Cards are worked out first, which is timed apart; then each is
turned into a year of feeds, powders and chores, all kept. Figures are kept in docs/performance.md.
"""

import time
import tracemalloc
from datetime import date, timedelta

from husbandry.feeding.history import History, RecordedMeal
from husbandry.rota.card import Card, RoomDays, compile_card, expand
from husbandry.species.book import shipped
from husbandry.species.stages import expected_mass_kg
from tests.plans import plan

ANIMALS = 200
TODAY = date(2026, 11, 25)
BEGAN = TODAY - timedelta(days=90)


def cards() -> list[Card]:
    """Two hundred animals through the book, half-grown and grown, with six weeks of meals on record."""
    profiles = list(shipped().values())
    found = []
    for place in range(ANIMALS):
        profile = profiles[place % len(profiles)]
        share = 0.5 if place // len(profiles) % 2 else 1.0
        hatch, adult = profile.body.hatch_length_cm.value, profile.body.adult_length_cm.middle
        length_m = (hatch + (adult - hatch) * share) / 100
        animal = {"length_m": length_m, "mass_kg": max(round(expected_mass_kg(profile, length_m), 5), 0.0001)}
        made = plan(species=profile.id, animal=animal, feeding={"starts": BEGAN.isoformat()})
        meals = tuple(RecordedMeal(TODAY - timedelta(days=3 * turn), "eaten", ("plain calcium",)) for turn in range(14, -1, -1))
        found.append(compile_card(made, profile, TODAY, History(BEGAN, meals, {"deep-clean": TODAY - timedelta(days=9)})))
    return found


def main() -> None:
    begun = time.perf_counter()
    made = cards()
    print(f"cards of {ANIMALS} animals: {time.perf_counter() - begun:.2f} s")
    for weekdays in ((), (0, 2, 4, 5)):
        spans = []
        begun = time.perf_counter()
        spans = [expand(card, TODAY, TODAY + timedelta(days=365), RoomDays(TODAY, weekdays=weekdays)) for card in made]
        turns = sum(len(span.feeds) + sum(len(run.days) for run in span.runs) for span in spans)
        taken = time.perf_counter() - begun
        print(f"a year, room days {weekdays or 'all'}: {taken:.2f} s, {turns} turns")
    del spans
    tracemalloc.start()
    kept = [expand(card, TODAY, TODAY + timedelta(days=365), RoomDays(TODAY)) for card in made]
    print(f"memory of that year: {tracemalloc.get_traced_memory()[1] / 2**20:.0f} MB in {len(kept)} cards")


if __name__ == "__main__":
    main()
