"""First plans of every species, stage, room and two sizes: dangers, bands inside, bands outside for no told reason, the time.

Run by hand: `OPENBLAS_NUM_THREADS=1 PYTHONPATH=. .venv-test/bin/python benchmarks/proposals.py [every]`, one plan in `every`. Its
table is kept in docs/performance.md. Not counted is a danger that the room makes, where what the room would have to be is said.
Seconds are of the processor, and beside them what they would be where the yardstick takes 5 ms; both processes are at work.
"""

import sys
import timeit
from collections import Counter
from concurrent.futures import ProcessPoolExecutor

from tests.core.first_plans import Case, Judged, cases, judged_plan, planned

GOAL_S, YARDSTICK_S, SLOWEST, AGAIN = 1.5, 0.005, 12, 3


def yardstick() -> float:
    """How long the machine takes for a piece of plain Python just now, s."""
    return min(timeit.repeat("[k * k for k in range(100_000)]", number=1, repeat=AGAIN))


def taken(case: Case) -> tuple[Judged, float, float]:
    """One, the processor time its plan took in s, and that where the yardstick takes 5 ms."""
    made = planned(case)
    return judged_plan(case, made), made.seconds, made.seconds * YARDSTICK_S / yardstick()


def main() -> None:
    every = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    sums: Counter[str] = Counter()
    by_room: Counter[tuple[str, str]] = Counter()
    dangers: Counter[str] = Counter()
    untold: Counter[str] = Counter()
    times: list[tuple[float, float, Case]] = []
    with ProcessPoolExecutor(2) as pool:
        for (case, outcome, bad, codes), seconds, at_pace in pool.map(taken, list(cases())[::every], chunksize=4):
            times.append((at_pace, seconds, case))
            sums[outcome] += 1
            by_room[case[2], outcome] += 1
            dangers.update(bad)
            untold.update(codes if outcome == "silent" else ())
            if bad or outcome == "silent":
                print(*case, outcome, *bad, "|", *codes, flush=True)
    print(dict(sums), dict(dangers))
    print({f"{room} {outcome}": count for (room, outcome), count in sorted(by_room.items())})
    print(untold.most_common())
    times.sort(reverse=True)
    slow = sum(at_pace > GOAL_S for at_pace, _seconds, _case in times)
    print(f"{len(times)} plans, the middle one {times[len(times) // 2][0]:.2f} s, {slow} above {GOAL_S} s")
    for at_pace, seconds, case in times[:SLOWEST]:
        print(f"{at_pace:5.2f} s ({seconds:.2f} s)", *case)


if __name__ == "__main__":
    main()
