"""A tuner as it is, whose dials err, before an antenna that nobody knows."""

import math
from dataclasses import replace

import numpy as np

from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.tuner import BYPASSED, CONTROLS, Seen, Tuner, TunerSetting, least_loss, tee_of

STOPS = ("output_low_f", "output_high_f", "coil_low_h", "coil_high_h", "input_low_f", "input_high_f")


class HiddenTuner:
    """Turns by its dials, shows sweeps at its input; what is what is drawn from the seed.

    Args:
        dial: the most that each dial is off, relative; spread evenly, the same at every setting.
        strays: a few picofarads across the coil and nanohenries in its leads, which the adviser knows nothing of.
    """

    def __init__(self, seed, dial, *, tuner=None, strays=False, half_width=0.005):
        self.rng = np.random.default_rng([seed, int(dial * 1000)])
        self.tuner = tuner or Tuner()
        self.middle_hz = self.rng.uniform(3.5e6, 28.5e6)
        self.f = self.middle_hz * np.linspace(1 - half_width, 1 + half_width, 21)
        self.errors = self.rng.uniform(-dial, dial, 3)
        self.strays = strays
        stops = (self.tuner.stops * (1 + self.errors)[:, np.newaxis]).ravel()
        q = self.tuner.coil_q * self.rng.uniform(0.7, 1.4)
        self.true = replace(self.tuner, **dict(zip(STOPS, stops, strict=True)), coil_q=q)
        while True:
            r, x = math.exp(self.rng.uniform(math.log(8), math.log(1000))), self.rng.uniform(-500, 500)
            q_load = self.rng.uniform(1, 15)
            self.load = r + 1j * (x + r * q_load * (self.f / self.middle_hz - self.middle_hz / self.f))
            if least_loss(self.true, self.middle_hz, complex(self.load[10]))[0] is not None:
                break
        low, high = np.log(self.tuner.stops).T
        self.dials = TunerSetting(self.tuner.sides[0], *(float(v) for v in np.exp(self.rng.uniform(low, high))))
        self.in_line = True

    def sweep(self):
        """What the analyser shows now, with a little noise."""
        setting = TunerSetting(self.dials.side, *(np.array(self.dials.values) * (1 + self.errors)))
        tee = tee_of(self.true, setting if self.in_line else BYPASSED, self.f)
        if self.strays and self.in_line:
            omega = 2 * np.pi * self.f
            lead = 1j * omega * 30e-9
            tee = tee._replace(
                upper_ohm=tee.upper_ohm + lead,
                across_s=tee.across_s + 1j * omega * 4e-12,
                lower_ohm=tee.lower_ohm + lead,
            )
        noise = self.rng.normal(size=(2, self.f.size)) * 0.002
        return Seen(self.dials, self.f, reflection_of(tee.near_ohm(self.load)) + noise[0] + 1j * noise[1])

    def turn(self, advice):
        """Does what was advised."""
        if advice.control == "switch":
            self.dials = replace(self.dials, side=advice.to)
            return
        values = list(self.dials.values)
        values[CONTROLS.index(advice.control)] = advice.to
        self.dials = TunerSetting(self.dials.side, *values)
