"""The application, as a WSGI server takes it."""

import gc
import os
from importlib import import_module

from django.core.wsgi import get_wsgi_application

from husbandry import LOADED_LATE

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
gc.disable()
application = get_wsgi_application()
for name in LOADED_LATE:  # once, before processes are forked
    import_module(name)
# What is loaded now lives as long as the process: left out of every later collection, which would pause a drag.
gc.collect()
gc.freeze()
gc.enable()
# Pages of hundreds of habitats make and drop many small objects: fewer, larger collections.
gc.set_threshold(20_000, 20, 40)
