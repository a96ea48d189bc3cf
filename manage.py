#!/usr/bin/env python
"""Django's command line for Ridgeback."""

import gc
import os
import sys

if __name__ == "__main__":
    gc.disable()  # nothing that is loaded at a start is thrown away again; ridgeback.home, the last to be loaded, enables it
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
    from django.core.exceptions import ImproperlyConfigured
    from django.core.management import execute_from_command_line

    try:
        execute_from_command_line(sys.argv)
    except ImproperlyConfigured as error:
        sys.exit(str(error))
