"""What all tests share."""

from typing import Any

import pytest
from django.contrib.auth.hashers import Argon2PasswordHasher
from hypothesis import settings as hypothesis_settings

# How long an example takes says something of the machine, nothing of the program.
hypothesis_settings.register_profile("ridgeback", deadline=None)
hypothesis_settings.load_profile("ridgeback")


class QuickArgon2(Argon2PasswordHasher):
    """The same algorithm, made cheap: tests make hundreds of accounts."""

    time_cost, memory_cost, parallelism = 1, 8, 1


@pytest.fixture(autouse=True)
def _quick_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = [f"{QuickArgon2.__module__}.{QuickArgon2.__qualname__}"]
