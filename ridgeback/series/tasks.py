"""What is done in the background: taking files in, and letting old readings go."""

import logging
from datetime import timedelta
from typing import Final

from procrastinate.contrib.django import app

from ridgeback import clock
from ridgeback.accounts import nights
from ridgeback.series import filing, intake, tables
from ridgeback.series.models import TableFile

log = logging.getLogger(__name__)

UNSAID: Final = timedelta(days=7)  # after which a file is let go of whose columns nobody has said


@app.task(name="series.take_file", lock="series.take_file")
def take_file(pk: int) -> None:
    """Take a file of readings in."""
    file = TableFile.objects.filter(pk=pk, state=TableFile.State.WAITS).first()
    if file is None:
        return
    try:
        filing.take_file(file)
    except tables.TableError as error:
        filing.failed(file, error.code, clock.now())
    except Exception:
        log.exception("the file %s could not be taken in", pk)
        filing.failed(file, "went_wrong", clock.now())


@app.periodic(cron="17 3 * * *")
@app.task(name="series.let_go", queueing_lock="series.let_go")
def let_go(timestamp: int) -> None:
    """Let readings go that are older than they are kept, and files whose columns nobody said, unless the clock may have jumped."""
    now = clock.now()
    if not nights.follows("series.let_go", now):
        return
    intake.let_go(now)
    TableFile.objects.filter(state=TableFile.State.ASKED, at__lt=now - UNSAID).delete()
