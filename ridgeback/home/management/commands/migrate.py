"""`manage.py migrate`: as Django's, but for a database that is still empty, which begins from the tables as they are now."""

from pathlib import Path
from typing import Any, Final

from django.core.management.commands.migrate import Command as DjangosCommand
from django.db import connections, transaction
from django.db.backends.base.base import BaseDatabaseWrapper

# Written by scripts/tables.py: what the migrations that it enters as applied make of an empty database.
TABLES: Final = Path(__file__).parents[2] / "tables.sql"


class Command(DjangosCommand):
    def handle(self, *args: Any, **options: Any) -> None:
        """Carry out one file where there is nothing yet, and then whatever migrations are newer than it, as ever."""
        only_told = options["plan"] or options["check_unapplied"] or options["fake"] or options["prune"]
        connection = connections[options["database"]]
        if not (only_told or options["app_label"]) and is_empty(connection):
            with transaction.atomic(using=connection.alias), connection.cursor() as cursor:
                cursor.execute(TABLES.read_text(encoding="utf-8"))
        super().handle(*args, **options)


def is_empty(connection: BaseDatabaseWrapper) -> bool:
    """Tell whether the database holds nothing at all where the file would write."""
    with connection.cursor() as cursor:
        cursor.execute("select current_schema(), count(*) from pg_class where relnamespace = to_regnamespace('public')")
        schema, things = cursor.fetchone()
    return bool(schema == "public" and things == 0)
