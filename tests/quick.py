"""What the program takes its time for and the tests need not: passwords of hundreds of accounts, permissions of Django's own."""

from typing import Any

import pytest
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.contrib.contenttypes.management import create_contenttypes
from django.db.models.signals import post_migrate

# Nobody here has a permission of Django's: to write them anew whenever a test has emptied the tables takes as long as the test.
post_migrate.disconnect(dispatch_uid="django.contrib.auth.management.create_permissions")
post_migrate.disconnect(create_contenttypes)


class QuickArgon2(Argon2PasswordHasher):
    """The same algorithm, made cheap."""

    time_cost, memory_cost, parallelism = 1, 8, 1


@pytest.fixture(autouse=True)
def quick_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = [f"{QuickArgon2.__module__}.{QuickArgon2.__qualname__}"]
