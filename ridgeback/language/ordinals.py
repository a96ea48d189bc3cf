"""Ordinal numbers in words."""


def ordinal(number: int) -> str:
    """ "2nd", "3rd", "11th" """
    ending = "th" if number % 100 in (11, 12, 13) else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{ending}"
