"""Write ridgeback/home/tables.sql, from which an empty database begins: what all migrations of now make of it.

python scripts/tables.py       (with the development environment; a database of its own is made and thrown away)

It may be left as it is when a migration is added: what is newer than the file is carried out after it. Written anew it saves a
first start the time. tests/web/test_migration.py compares what both ways come to.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
# What pg_dump writes above each thing, and what it says to the session that reads it.
HEADING: Final = re.compile(r"\n*^--\n(-- .*\n)+--\n+", re.MULTILINE)
OF_THE_SESSION: Final = re.compile(r"^(\\|-- Dumped |SET |SELECT pg_catalog\.set_config).*\n+", re.MULTILINE)
HEAD: Final = """-- Written by scripts/tables.py: what the migrations that stand at the end make of an empty database.
-- Bodies of functions name tables that come after them.
SET LOCAL check_function_bodies = false;
"""


def main() -> None:
    from launch.cluster import Cluster

    folder = Path(tempfile.mkdtemp(prefix="ridgeback-tables-"))
    folder.chmod(0o755)  # PostgreSQL's user must reach it
    cluster = Cluster(folder, throwaway=True)
    try:
        cluster.create()
        cluster.start()
        os.environ |= {"DATABASE_URL": cluster.url, "DJANGO_SETTINGS_MODULE": "ridgeback.settings"}
        write(cluster.programs / "pg_dump", cluster.url)
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def write(pg_dump: Path, url: str) -> None:
    """Carry out every migration in an empty database, and write down what came of it."""
    import django
    from django.db import connection
    from django.db.migrations.executor import MigrationExecutor

    django.setup()
    executor = MigrationExecutor(connection)
    executor.migrate(executor.loader.graph.leaf_nodes())
    from ridgeback.home.management.commands.migrate import TABLES

    command = [str(pg_dump), "--schema-only", "--no-owner", "--no-acl", "--no-comments", url]
    told = subprocess.run(command, check=True, capture_output=True, text=True).stdout
    made = OF_THE_SESSION.sub("", HEADING.sub("\n", told))
    applied = sorted(MigrationExecutor(connection).loader.applied_migrations)
    rows = ",\n".join(f"  ('{app}', '{name}', now())" for app, name in applied)
    entered = f"INSERT INTO public.django_migrations (app, name, applied) VALUES\n{rows};\n"
    TABLES.write_text(f"{HEAD}{made.strip()}\n{entered}", encoding="utf-8")


if __name__ == "__main__":
    main()
