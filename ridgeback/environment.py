"""What is set outside the program: environment variables, each of which may instead stand in a file that NAME_FILE names.

A secret in a file is read by whoever may read the file; one in the environment, by every process of the same user and by what that
process starts (docs/decisions/0112).
"""

from typing import Final

from django.core.exceptions import ImproperlyConfigured
from environ import FileAwareEnv
from environ.fileaware_mapping import FileAwareMapping


class Trimmed(FileAwareMapping):
    """Values of the environment or of files, without the line's end that an editor puts behind them."""

    def __getitem__(self, key: str) -> str:
        """The value of a name. Raises KeyError where there is none, ImproperlyConfigured where its file cannot be read."""
        try:
            return str(super().__getitem__(key)).strip()
        except (OSError, UnicodeDecodeError):
            raise ImproperlyConfigured(f"The file that {key}_FILE names cannot be read.") from None


class Environment(FileAwareEnv):
    """Environment variables by type, from the environment or from files."""

    ENVIRON = Trimmed()


env: Final = Environment()
