"""PsychroLib in plain Python: where it finds Numba, it compiles itself for two minutes."""

import sys
from unittest import mock

with mock.patch.dict(sys.modules, {"numba": None}):
    import psychrolib

psychrolib.SetUnitSystem(psychrolib.SI)

__all__ = ["psychrolib"]
