"""The linear system in its modes: each goes its own way, exactly, for as long as nothing switches."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

LONGEST: Final = 30  # minutes the correction is held at most


@dataclass(frozen=True)
class Modes:
    """The linear system in its modes: `temperature` (n, modes) back to °C, `forcing` (modes, n) from W at the nodes."""

    rates: Floats
    temperature: Floats
    forcing: Floats
    decay: Floats
    grown: Floats

    @classmethod
    def of(cls, matrix: Floats, capacity: Floats) -> "Modes":
        """Decompose; `decay` and `grown` (LONGEST + 1, modes) take a state and a constant forcing 0…LONGEST minutes on."""
        scale = 1 / np.sqrt(capacity)
        rates, vectors = np.linalg.eigh(matrix * scale[:, None] * scale[None, :])
        rates = np.maximum(rates, 1e-12)
        seconds = 60.0 * np.arange(LONGEST + 1)[:, None]
        decay = np.exp(-rates * seconds)
        return cls(rates, scale[:, None] * vectors, (vectors * scale[:, None]).T, decay, (1 - decay) / rates)

    def at(self, state: Floats, capacity: Floats) -> Floats:
        """Return the modal amplitudes of node temperatures."""
        return np.asarray(self.forcing @ (capacity * state))
