"""What is done by the clock: letting go of files that nobody came back for, and beginning again what a worker left half done."""

from datetime import timedelta
from typing import Final

from procrastinate import JobContext
from procrastinate.contrib.django import app
from procrastinate.manager import JobManager

from ridgeback import clock
from ridgeback.uploads.models import Upload

KEPT: Final = timedelta(days=7)
SILENT_S: Final = 120.0


@app.periodic(cron="27 3 * * *")
@app.task(name="uploads.let_go", queueing_lock="uploads.let_go")
def let_go(timestamp: int) -> None:
    """Let go of files that were not read within a week."""
    Upload.objects.filter(at__lt=clock.now() - KEPT).delete()


@app.periodic(cron="*/3 * * * *")
@app.task(name="uploads.begin_again", queueing_lock="uploads.begin_again", pass_context=True)
async def begin_again(context: JobContext, timestamp: int) -> None:
    """Begin again what a worker was at that is no more: every job of ours can be done twice."""
    await retry_stalled(context.app.job_manager)


async def retry_stalled(jobs: JobManager) -> None:
    """Let jobs wait again whose worker has been silent for `SILENT_S`."""
    for job in await jobs.get_stalled_jobs(seconds_since_heartbeat=SILENT_S):
        await jobs.retry_job(job)
