"""`manage.py assess plan.json`: the assessment as JSON; needs no database."""

import json
import sys
from datetime import date
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from husbandry.plan.assess import assess
from husbandry.plan.document import HabitatPlan
from husbandry.plan.outlook import outlook
from husbandry.plan.reading import LARGEST_BYTES, PlanProblems, read_text
from husbandry.plan.report import report
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.planner import wording
from ridgeback.units import METRIC

BAD_INPUT = 2


class Command(BaseCommand):
    help = "Assess a habitat plan (a JSON file, or - for standard input) and print the assessment as JSON."
    requires_system_checks = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("plan", nargs="?", help="the plan's file, or - for standard input")
        parser.add_argument("--schema", action="store_true", help="print the JSON Schema of a plan instead")
        parser.add_argument("--today", help="assess as of this date (YYYY-MM-DD) instead of today")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["schema"]:
            self.stdout.write(json.dumps(HabitatPlan.model_json_schema(), indent=2, ensure_ascii=False))
            return
        if options["plan"] is None:
            self._refuse("Name the plan's file: manage.py assess plan.json")
        try:
            today = date.fromisoformat(options["today"]) if options["today"] else clock.today()
        except ValueError:
            self._refuse(f"--today: {options['today']!r} is not a date like 2026-05-31.")
        try:
            plan = read_text(self._read(options["plan"]))
        except PlanProblems as found:
            self._refuse(*(f"{item.path or 'plan'}: {wording.problem(item, METRIC)}" for item in found.problems))
        profile = find(plan.species)
        result = report(assess(plan, profile, today), outlook(plan, profile, today))
        self.stdout.write(json.dumps(result, indent=2, ensure_ascii=False, allow_nan=False))

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
