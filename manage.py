#!/usr/bin/env python
"""Django's command line for Ridgeback."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
    from django.core.exceptions import ImproperlyConfigured
    from django.core.management import execute_from_command_line

    try:
        execute_from_command_line(sys.argv)
    except ImproperlyConfigured as error:
        sys.exit(str(error))
