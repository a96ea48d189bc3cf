"""Keeping what a check told of an instrument."""

from husbandry.upkeep.instruments import Checked, How
from ridgeback.daybook.models import Instrument
from ridgeback.daybook.writing import Intent, writing
from ridgeback.series.models import Correction


def keep_check(instrument: Instrument, intent: Intent, found: Checked, how: How, shown: float, against: Instrument | None) -> None:
    """Keep a check; what the instrument reads too high is taken off from now on. Raises AlreadyWritten."""
    with writing(intent, room=instrument.room_id):
        kept = {"how": how.value, "shown": shown, "reads_high": found.reads_high, "sure_to": found.sure_to}
        Correction.objects.create(instrument=instrument, at=intent.at, against=against, author=intent.author, **kept)
        instrument.reads_high, instrument.sure_to = found.reads_high, found.sure_to
        instrument.save(update_fields=["reads_high", "sure_to"])
