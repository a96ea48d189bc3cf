"""Tests that are loaded while others run, and begin when those have ended (`./test`, launch/check.py)."""

import fcntl
import os
from pathlib import Path

from launch.check import NOW


def may_begin() -> bool:
    """Wait for the file that RIDGEBACK_TEST_BEGINS names until nobody holds it; tell whether it says that the time has come.

    It says nothing where whoever started the tests was stopped or killed. Nothing is waited for where no file is named.
    """
    named = os.environ.get("RIDGEBACK_TEST_BEGINS")
    if named is None:
        return True
    try:
        with Path(named).open() as gate:
            fcntl.flock(gate, fcntl.LOCK_SH)
            return gate.read() == NOW
    except FileNotFoundError:  # removed with all else that was of that run
        return False
