"""`manage.py prepare`: what ./start needs before serving: migrations, static files, the demo once."""

import json
import sys
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import DEFAULT_DB_ALIAS, OperationalError, connections
from django.db.migrations.executor import MigrationExecutor

from ridgeback import clock
from ridgeback.book import catalogue
from ridgeback.environment import env
from ridgeback.home import demo, demo_instruments


def static_is_old() -> bool:
    """Tell whether what was collected is not what this program has: something is newer, or was never collected."""
    manifest = Path(settings.STATIC_ROOT) / "staticfiles.json"
    if not manifest.exists():
        return True
    made, known = manifest.stat().st_mtime, json.loads(manifest.read_text()).get("paths", {})
    for folder in map(Path, settings.STATICFILES_DIRS):
        for path in folder.rglob("*"):
            # A newer program may have files that are older than what another one collected.
            if path.stat().st_mtime > made or (path.is_file() and path.relative_to(folder).as_posix() not in known):
                return True
    return False


class Command(BaseCommand):
    help = "Migrate, collect static files, enter the book in the catalogue, and load the demo once."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", action="store_true", help="load the Saltmarsh Lane Learning Room if it never was")

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            connections[DEFAULT_DB_ALIAS].ensure_connection()
        except OperationalError as error:
            last = str(error).strip().splitlines()[0]
            self.stderr.write(f"The database does not answer: {last}")
            sys.exit(1)
        executor = MigrationExecutor(connections[DEFAULT_DB_ALIAS])
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            call_command("migrate", interactive=False, verbosity=0)
        if static_is_old():
            call_command("collectstatic", interactive=False, verbosity=0, clear=True)
        catalogue.enter_shipped()
        if options["demo"]:
            demo.load_once(env.str("RIDGEBACK_DEMO_PASSWORD"))
            if key := env.str("RIDGEBACK_DEVICE_KEY", default=""):
                demo_instruments.equip_once(key, clock.now())
