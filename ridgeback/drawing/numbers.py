"""Numbers of a drawing as short text."""

from typing import Any


def plain(value: Any) -> Any:
    """Turn every number in a drawing into short text: one decimal is a tenth of a pixel, and no locale touches it."""
    if isinstance(value, float):
        return f"{value:.1f}"
    if isinstance(value, dict):
        return {key: plain(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [plain(item) for item in value]
    return value
