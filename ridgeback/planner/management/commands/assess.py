"""`manage.py assess plan.json`: the assessment as JSON; needs no database."""

import json
import sys
import time
from datetime import date
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from husbandry.animal.growth_outlook import outlook
from husbandry.assess.report import report
from husbandry.assess.vetting import advise
from husbandry.design import survey
from husbandry.numerals import NumberError
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import LARGEST_BYTES, PlanProblems, read_text
from husbandry.species.book import UnknownSpeciesError, find, shipped
from husbandry.species.profile import Profile
from husbandry.species.reading import ProfileProblems
from husbandry.species.reading import read_text as read_profile
from ridgeback import clock
from ridgeback.book import words
from ridgeback.language import wording
from ridgeback.units import METRIC
from ridgeback.web import typed

BAD_INPUT = 2


class Command(BaseCommand):
    help = "Assess a habitat plan (a JSON file, or - for standard input) and print the assessment as JSON."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("plan", nargs="?", help="the plan's file, or - for standard input")
        parser.add_argument("--schema", action="store_true", help="print the JSON Schema of a plan instead")
        parser.add_argument("--profile-schema", action="store_true", help="print the JSON Schema of a species profile instead")
        parser.add_argument("--profile", help="assess by this species profile (TOML or JSON) instead of the book's")
        parser.add_argument("--all", action="store_true", help="send every stage of every species through three enclosures")
        parser.add_argument("--today", help="assess as of this date (YYYY-MM-DD) instead of today")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["schema"]:
            self.stdout.write(json.dumps(HabitatPlan.model_json_schema(), indent=2, ensure_ascii=False))
            return
        if options["profile_schema"]:
            self.stdout.write(json.dumps(Profile.model_json_schema(), indent=2, ensure_ascii=False))
            return
        if options["all"]:
            self._survey(clock.today())
            return
        if options["plan"] is None:
            self._refuse("Name the plan's file: manage.py assess plan.json")
        try:
            today = typed.day(options["today"]) if options["today"] else clock.today()
        except NumberError as error:
            self._refuse(f"--today: {wording.unread(error, options['today'])} Give one like 2026-05-31.")
        try:
            plan = read_text(self._read(options["plan"]))
        except PlanProblems as found:
            self._refuse(*(f"{item.path or 'plan'}: {wording.problem(item, METRIC)}" for item in found.problems))
        profile = self._profile(plan.species, options["profile"])
        result = report(advise(plan, profile, today), outlook(plan, profile, today))
        self.stdout.write(json.dumps(result, indent=2, ensure_ascii=False, allow_nan=False))

    def _profile(self, species: str, name: str | None) -> Profile:
        """The book's profile, or the one in a file; a keeper's own species needs its file."""
        if name is None:
            try:
                return find(species)
            except UnknownSpeciesError:
                self._refuse(f"species: {species!r} is a keeper's own; name its profile: --profile my.toml")
        try:
            return read_profile(self._read(str(name)).decode("utf-8-sig"))
        except UnicodeDecodeError:
            self._refuse(f"{name}: this is no text in UTF-8.")
        except ProfileProblems as found:
            self._refuse(*(f"{item.path or 'profile'}: {words.problem(item, METRIC)}" for item in found.problems))
        raise AssertionError

    def _survey(self, today: date) -> None:
        """Every species × stage × enclosure, one school varied at a time; a summary as JSON, exit 1 where anything is wrong."""
        began, count, broken, bare, odd = time.monotonic(), 0, [], [], []
        for profile in shipped().values():
            for case in survey.cases(profile, today):
                count += 1
                named = f"{case.species} / {case.stage} / {case.enclosure} / {case.school or 'the book'}"
                try:
                    found = survey.run(case, profile, today)
                    json.dumps(report(found, None), allow_nan=False)
                except Exception as error:  # the survey is there to find whatever breaks
                    broken.append(f"{named}: {type(error).__name__}: {error}")
                    continue
                bare += [f"{named}: {item}" for item in survey.without_basis(found)]
                odd += [f"{named}: {code}" for code in survey.at_odds(case, found)]
        seconds = round(time.monotonic() - began, 1)
        summary = {"species": len(shipped()), "assessments": count, "seconds": seconds, "broken": broken, "without_basis": bare}
        summary["at_odds"] = odd
        self.stdout.write(json.dumps(summary, indent=2, ensure_ascii=False))
        if broken or bare or odd:
            sys.exit(1)

    def _read(self, name: str) -> bytes:
        try:
            if name == "-":
                return sys.stdin.buffer.read(LARGEST_BYTES + 1)
            with Path(name).open("rb") as file:
                return file.read(LARGEST_BYTES + 1)
        except OSError as error:
            self._refuse(f"{name}: {error.strerror}.")
        raise AssertionError

    def _refuse(self, *lines: str) -> None:
        for line in lines:
            self.stderr.write(line)
        sys.exit(BAD_INPUT)
