"""Passwords for tests that make hundreds of accounts."""

from typing import Any

import pytest
from django.contrib.auth.hashers import Argon2PasswordHasher


class QuickArgon2(Argon2PasswordHasher):
    """The same algorithm, made cheap."""

    time_cost, memory_cost, parallelism = 1, 8, 1


@pytest.fixture(autouse=True)
def quick_passwords(settings: Any) -> None:
    settings.PASSWORD_HASHERS = [f"{QuickArgon2.__module__}.{QuickArgon2.__qualname__}"]
