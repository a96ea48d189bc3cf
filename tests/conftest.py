"""What all tests share."""

from hypothesis import settings as hypothesis_settings

# How long an example takes says something of the machine, nothing of the program.
hypothesis_settings.register_profile("ridgeback", deadline=None)
hypothesis_settings.load_profile("ridgeback")
