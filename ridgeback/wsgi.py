"""The application, as a WSGI server takes it."""

import gc
import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ridgeback.settings")
gc.disable()
application = get_wsgi_application()
# What is loaded now lives as long as the process: left out of every later collection, which would pause a drag.
gc.collect()
gc.freeze()
gc.enable()
# Pages of hundreds of habitats make and drop many small objects: fewer, larger collections.
gc.set_threshold(20_000, 20, 40)
