"""What of a plan is looked at: a step, a season, day or night."""

from dataclasses import dataclass, replace

from django.http import QueryDict

from ridgeback.language import names


@dataclass(frozen=True)
class View:
    """What the keeper looks at: a step, a season, day or night."""

    step: str = "heat"
    season: str = "winter"
    phase: str = "day"

    @classmethod
    def of(cls, query: QueryDict) -> "View":
        """Read the view from a request; anything unknown falls back."""
        given = {name: query.get(name, "") for name in ("step", "season", "phase")}
        known = {"step": names.STEPS, "season": names.SEASONS, "phase": names.PHASES}
        return cls(**{name: value for name, value in given.items() if value in known[name]})

    def query(self, **other: str) -> str:
        view = replace(self, **other)
        return f"step={view.step}&season={view.season}&phase={view.phase}"
