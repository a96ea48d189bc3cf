"""The database that the tests are run on, made once for all who run them: `python -m tests.database` (launch/check.py).

Each process of the tests has a copy of its own, which takes PostgreSQL a moment; migrating takes seconds, and so does planning the
demo, whose rows are put aside in a schema of their own.
"""

import os
import sys
from typing import Final

import django
from django.apps import apps
from django.core.management.color import no_style
from django.db import connection, transaction
from django.db.models import Model

PASSWORD: Final = "cord-grass-4"


def bring_demo(*, whole: bool = False) -> str:
    """Bring the demo's rows into empty tables, three habitats or all, loading them where none are aside; return its password."""
    schema = _schema(whole)
    with transaction.atomic(), connection.cursor() as cursor:
        if not _aside(schema):
            put_aside(whole=whole)
        models = _aside(schema)
        for model in models:
            cursor.execute(f'insert into public."{model._meta.db_table}" select * from {schema}."{model._meta.db_table}"')
        cursor.execute(";".join(line.rstrip(";") for line in connection.ops.sequence_reset_sql(no_style(), models)))
    return PASSWORD


def put_aside(*, whole: bool) -> None:
    """Load the demo, copy its rows into a schema aside, and leave the tables as empty as they were."""
    from ridgeback.book import catalogue
    from ridgeback.home import demo

    schema = _schema(whole)
    with transaction.atomic(), connection.cursor() as cursor:
        catalogue.enter_shipped()  # as `manage.py prepare` does before
        demo.load_once(PASSWORD, **({} if whole else {"guests": ()}))
        filled = [one._meta.db_table for one in _ours() if one._base_manager.exists()]
        cursor.execute(f"create schema {schema}")
        for table in filled:
            cursor.execute(f'create table {schema}."{table}" as select * from public."{table}"')
        cursor.execute("set constraints all immediate")
        cursor.execute("truncate " + ", ".join(f'public."{table}"' for table in filled) + " restart identity cascade")
        cursor.execute("set constraints all deferred")  # as Django has them, for whatever this transaction still does


def _schema(whole: bool) -> str:
    return "whole_demo" if whole else "demo_of_three"


def _ours() -> list[type[Model]]:
    return [one for one in apps.get_models(include_auto_created=True) if one.__module__.startswith("ridgeback.")]


def _aside(schema: str) -> list[type[Model]]:
    """The models whose rows are aside."""
    with connection.cursor() as cursor:
        cursor.execute("select tablename from pg_tables where schemaname = %s", [schema])
        there = {row[0] for row in cursor.fetchall()}
    return [one for one in _ours() if one._meta.db_table in there]


def main() -> int:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
    django.setup()
    connection.creation.create_test_db(verbosity=0, autoclobber=True, serialize=False)
    for whole in (False, True):
        put_aside(whole=whole)
    connection.close()
    for worker in sys.argv[1:]:
        connection.creation.clone_test_db(suffix=worker, verbosity=0, autoclobber=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
