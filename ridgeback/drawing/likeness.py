"""A grown animal beside a measure: how large it becomes, at a glance."""

from typing import Any, Final

from ridgeback.drawing import animals

WIDTH, HEIGHT, BASE = 300.0, 92.0, 74.0
MEASURES_M: Final = (0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1.0)
MEASURE_SHARE: Final = 0.34  # of the picture's width at most, for the measure
ANIMAL_SHARE: Final = 0.54  # for the animal
COIL_M: Final = 0.2  # a snake is drawn coiled, as large as this share of its length


def _reach(form: str) -> tuple[float, float]:
    """How long and how high an outline reaches, in its own unit."""
    numbers = [pairs for _letter, pairs in animals.OUTLINES[form]]
    xs, ys = ([value for pairs in numbers for value in pairs[begin::2]] for begin in (0, 1))
    return max(xs) - min(xs), max(ys)


def draw(form: str, total_m: float) -> dict[str, Any]:
    """The picture of an animal of `form` and `total_m` from nose to tail's tip: paths, and a measure of `measure_m` in pixels."""
    unit_m = total_m * (COIL_M if form == "snake" else 1.0)
    long, high = _reach(form)
    scale = min(ANIMAL_SHARE * WIDTH / long, (BASE - 8) / high) / unit_m
    outline, marks, eye = animals.place(form, total_m, ANIMAL_SHARE * WIDTH / 2 + 4, BASE, scale, turned=False)
    measure = next((one for one in reversed(MEASURES_M) if one * scale <= MEASURE_SHARE * WIDTH), MEASURES_M[0])
    top = max(0.0, BASE - high * unit_m * scale - 6)
    begins = WIDTH - 8 - measure * scale
    return {
        "form": form,
        "outline": outline,
        "marks": marks,
        "eye": eye,
        "measure_m": measure,
        "from": f"{begins:.1f}",
        "to": f"{WIDTH - 8:.1f}",
        "base": f"{BASE:g}",
        "view": f"0 {top:.0f} {WIDTH:g} {HEIGHT - top:.0f}",
    }
