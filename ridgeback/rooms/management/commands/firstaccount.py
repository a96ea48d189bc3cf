"""`manage.py firstaccount`: asks at the terminal for the first administrator; used by ./start --fresh."""

import getpass
import sys
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand

from ridgeback.accounts.models import Keeper
from ridgeback.rooms import keepers


class Command(BaseCommand):
    help = "Ask for the name and password of the first account."

    def handle(self, *args: Any, **options: Any) -> None:
        if Keeper.objects.exists():
            self.stdout.write("There is an account already; nothing to ask.")
            return
        try:
            name = self._name()
            password = self._password(name)
        except (EOFError, KeyboardInterrupt):
            self.stderr.write("\nNo account was made; ./start asks again.")
            sys.exit(1)
        keepers.add(name, password, administrator=True)
        self.stdout.write(f"The account {name} is ready.")

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
