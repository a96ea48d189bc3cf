"""`manage.py listen`: take readings from the broker that RIDGEBACK_BROKER_URL names, for ever."""

import sys
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from ridgeback.series.broker import BrokerError, listen


class Command(BaseCommand):
    help = "Take readings from the broker that RIDGEBACK_BROKER_URL names."

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            listen(settings.BROKER_URL)
        except BrokerError as error:
            self.stderr.write(f"RIDGEBACK_BROKER_URL: {error}.")
            sys.exit(1)
