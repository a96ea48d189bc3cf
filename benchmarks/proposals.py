"""First plans of every species, stage, room and of two sizes: dangers, bands inside, and what is outside without a reason.

Run by hand: `OPENBLAS_NUM_THREADS=1 PYTHONPATH=. .venv-test/bin/python benchmarks/proposals.py [every]`, one plan in `every`. Its
table is kept in docs/performance.md. Not counted is a danger that the room makes, where what the room would have to be is said.
"""

import sys
from collections import Counter
from concurrent.futures import ProcessPoolExecutor

from tests.core.first_plans import cases, judged


def main() -> None:
    every = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    sums: Counter[str] = Counter()
    by_room: Counter[tuple[str, str]] = Counter()
    dangers: Counter[str] = Counter()
    untold: Counter[str] = Counter()
    with ProcessPoolExecutor(2) as pool:
        for case, outcome, bad, codes in pool.map(judged, list(cases())[::every], chunksize=4):
            sums[outcome] += 1
            by_room[case[2], outcome] += 1
            dangers.update(bad)
            untold.update(codes if outcome == "silent" else ())
            if bad or outcome == "silent":
                print(*case, outcome, *bad, "|", *codes, flush=True)
    print(dict(sums), dict(dangers))
    print({f"{room} {outcome}": count for (room, outcome), count in sorted(by_room.items())})
    print(untold.most_common())


if __name__ == "__main__":
    main()
