"""Where along the length there is room for one more thing."""

STEPS = 100


def free_place(taken: tuple[tuple[float, float], ...], length_m: float, size_m: float, wanted_m: float) -> float:
    """Return the middle (m from the left) nearest to `wanted_m` at which `size_m` stands clear of everything.

    `taken` holds middle and size (m) of what stands there. Where nothing is clear, the place that overlaps least.

    Parameters
    ----------
    taken
        Middle and size of what stands there, m.
    length_m
        Inner length, m.
    size_m
        Of what is to be placed, m.
    wanted_m
        Where it had best stand, m.

    Returns
    -------
    m from the left.

    References
    ----------
    Search over places; no source outside.
    """
    half = min(size_m, length_m) / 2
    places = [half + step / STEPS * (length_m - 2 * half) for step in range(STEPS + 1)]

    def overlap(place: float) -> float:
        return sum(max((size + size_m) / 2 - abs(place - middle), 0.0) for middle, size in taken)

    return min(places, key=lambda place: (round(overlap(place), 6), abs(place - wanted_m)))
