"""How the backups went, for the administrator: what `launch/backups.py` wrote down of the last one and of the last good one."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Annotated, Final

from django.conf import settings
from pydantic import BaseModel, Field

LATE: Final = timedelta(days=2)  # a day is one backup; two are one that was missed


@dataclass(frozen=True)
class Backups:
    """The last good one (`at`, its size in megabytes, whether it was restored on trial), and why the last one failed, if it did.

    `late` says that none was made for too long though one is due each day; `daily` whether they make themselves.
    """

    at: datetime | None
    megabytes: float
    verified: bool
    failed: str
    failed_at: datetime | None
    late: bool
    daily: bool

    @property
    def wrong(self) -> bool:
        """Tell whether somebody has to look after them."""
        return bool(self.failed) or self.late


class Went(BaseModel):
    """How one backup went, as `launch/backups.py` writes it down."""

    at: Annotated[float, Field(ge=0, le=1e11)]
    bytes: int = 0
    verified_at: float | None = None
    failed: str = ""

    @property
    def moment(self) -> datetime:
        return datetime.fromtimestamp(self.at, UTC)


class LastBackups(BaseModel):
    """The last one, and the last good one."""

    last: Went
    good: Went | None


def told(now: datetime) -> Backups | None:
    """What is known of the backups; None where nobody tells this program."""
    daily = settings.BACKUPS_DAILY
    if not settings.BACKUPS_SHOWN:
        return None
    try:
        found = LastBackups.model_validate_json(Path(settings.BACKUPS_SHOWN).read_bytes())
    except FileNotFoundError:
        return Backups(None, 0.0, False, "", None, False, daily)
    except (OSError, ValueError):
        return None
    last, good = found.last, found.good
    return Backups(
        at=good.moment if good else None,
        megabytes=good.bytes / 1e6 if good else 0.0,
        verified=good is not None and good.verified_at is not None,
        failed=last.failed,
        failed_at=last.moment if last.failed else None,
        late=daily and good is not None and now - good.moment > LATE,
        daily=daily,
    )
