"""Django empties its own tables after a test that commits, and not those of the job queue: they are emptied with them here."""

from typing import Any

from django.apps import AppConfig
from django.db import connections
from django.db.models.signals import post_migrate
from procrastinate.contrib.django.models import (
    ProcrastinateEvent,
    ProcrastinateJob,
    ProcrastinatePeriodicDefer,
    ProcrastinateWorker,
)

# What refers to another comes before it.
OF_THE_QUEUE = (ProcrastinatePeriodicDefer, ProcrastinateEvent, ProcrastinateJob, ProcrastinateWorker)


def emptied(sender: AppConfig, using: str, **_more: Any) -> None:
    """Leave no job of one test to the next: told of after every emptying."""
    if sender is ProcrastinateJob._meta.app_config:
        with connections[using].cursor() as cursor:
            cursor.execute(";".join(f'delete from "{model._meta.db_table}"' for model in OF_THE_QUEUE))


post_migrate.connect(emptied, dispatch_uid="tests.jobs.emptied")
