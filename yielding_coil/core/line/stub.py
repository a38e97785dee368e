"""A stub: a length of line, open or shorted at its far end, that stands beside the way of the power."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Reals, complex_of, require_positive
from yielding_coil.core.line.line import OPEN_END_F, Cable

End = Literal["open", "shorted"]


@dataclass(frozen=True, slots=True)
class Stub:
    """A length of line with one end free to nothing: a reactance, with the line's loss in it.

    Valid for lines whose ends are small beside a wave. A shorted end is a short; a length of wire across it adds to
    the length. `OpenCoax` is the same thing used as a capacitor of a stated value.

    Args:
        cable: what it is cut from; two wires make a hairpin.
        length_m: of the line, above zero.
        end: what its far end is.

    >>> from yielding_coil.core.line.line import Cable
    >>> eighth = Stub(Cable("50 ohm", 50.0, 0.66, 0.0, 0.0), 299.792458 * 0.66 / 8, "shorted")
    >>> complex(eighth.impedance_ohm(1e6)).imag.__round__(6)
    50.0
    """

    cable: Cable
    length_m: Reals
    end: End

    def __post_init__(self) -> None:
        require_positive("length_m", self.length_m)

    def admittance_s(self, frequency_hz: Reals) -> Complex:
        """Admittance in siemens at each frequency: tanh(γl)/Z0 open, with its end, coth(γl)/Z0 shorted.

        Source:
            Pozar, Microwave Engineering, 4th ed., eqs. (2.45) and (2.46), with a complex propagation constant.
        """
        f = np.asarray(frequency_hz, dtype=float)
        gamma, z0 = self.cable.propagation(f)
        # tanh(a + jb) = (sinh 2a + j sin 2b)/(cosh 2a + cos 2b), coth likewise with a minus: by real functions.
        grown = np.exp((2 * self.length_m) * gamma.real)
        phase = (2 * self.length_m) * gamma.imag
        shrunk = 1 / grown
        sine, cosine = np.sin(phase), 2 * np.cos(phase)
        if self.end == "open":
            over = 2 / (grown + shrunk + cosine)
            line_s = complex_of((grown - shrunk) / 2 * over, sine * over) / z0
            return complex_of(line_s.real, line_s.imag + (2 * math.pi * OPEN_END_F) * f)
        over = 2 / (grown + shrunk - cosine)
        return np.asarray(complex_of((grown - shrunk) / 2 * over, -sine * over) / z0)

    def impedance_ohm(self, frequency_hz: Reals) -> Complex:
        """Impedance in ohm at each frequency."""
        return np.asarray(1 / self.admittance_s(frequency_hz))
