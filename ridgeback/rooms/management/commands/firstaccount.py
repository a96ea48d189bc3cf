"""`manage.py firstaccount`: the first administrator, asked for at the terminal (./start --fresh), or named by who sets it up.

With `--name` nothing is asked: the password is in a file, or else a link is printed by which its owner sets one, good for a day.
"""

import getpass
import sys
from pathlib import Path
from typing import Any
from urllib.parse import urljoin

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser

from ridgeback.accounts import links
from ridgeback.accounts.models import Keeper
from ridgeback.rooms import keepers


class Command(BaseCommand):
    help = "Make the first account; without a name, ask for it and its password."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--name", help="the sign-in name: nothing is asked then")
        parser.add_argument("--password-file", help="a file whose first line is the password; without it a link is printed")

    def handle(self, *args: Any, **options: Any) -> None:
        if Keeper.objects.exists():
            self.stdout.write("There is an account already; nothing to do.")
            return
        if options["name"]:
            self._unasked(options["name"], options["password_file"])
            return
        if options["password_file"]:
            raise CommandError("A password file goes with a name: --name NAME.")
        try:
            name = self._name()
            password = self._password(name)
        except (EOFError, KeyboardInterrupt):
            self.stderr.write("\nNo account was made; ./start asks again.")
            sys.exit(1)
        keepers.add(name, password, administrator=True)
        self.stdout.write(f"The account {name} is ready.")

    def _unasked(self, name: str, password_file: str | None) -> None:
        """Make it without asking. Raises CommandError for a name or a password that cannot be one."""
        password = None
        try:
            Keeper._meta.get_field("username").run_validators(name)
            if password_file:
                password = (Path(password_file).read_text().splitlines() or [""])[0]
                validate_password(password, Keeper(username=name))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        except OSError as error:
            raise CommandError(f"{password_file} cannot be read: {error.strerror}.") from None
        keeper = keepers.add(name, password, administrator=True)
        if password is not None:
            self.stdout.write(f"The account {name} is ready.")
            return
        self.stdout.write(f"The account {name} is ready. Its password is set here, once, within a day:")
        self.stdout.write(urljoin(settings.ADDRESS, links.make(keeper)))

    def _name(self) -> str:
        while True:
            name = input("Sign-in name for the first account: ").strip()
            try:
                Keeper._meta.get_field("username").run_validators(name)
            except ValidationError as error:
                self.stdout.write(" ".join(error.messages))
                continue
            if name:
                return name

    def _password(self, name: str) -> str:
        while True:
            password = getpass.getpass("Password: ")
            try:
                validate_password(password, Keeper(username=name))
            except ValidationError as error:
                self.stdout.write(" ".join(error.messages))
                continue
            if getpass.getpass("Password again: ") == password:
                return password
            self.stdout.write("The two did not match.")
