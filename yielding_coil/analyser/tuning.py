"""A tuner on the simulated bench, before an antenna: its dials err and its shafts lag, unknown to its desk."""

import json
import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from yielding_coil.analyser.bench import THINGS
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.tuner import BYPASSED, Side, Tee, Tuner, TunerSetting, inside, tee_of

# Dials are off by so much at most, by how hard it is meant to be.
DIAL_ERRORS = {"easy": 0.05, "hard": 0.2}
# A shaft follows its dial only after so much of slack, relative, when it is turned back (practice: worn couplings).
SLACK = 0.012
# Across the coil, and in the leads of both capacitors (from memory).
STRAY_F, LEAD_H = 4e-12, 30e-9
CONTROLS = ("output_f", "coil_h", "input_f")


@dataclass(frozen=True, slots=True)
class TunerThing:
    """A tuner as it stands.

    Args:
        antenna: key of what hangs on it, among the things of the bench.
        tuner: by its dials; in truth its coil is of another Q.
        true: what the parts are, their strays apart.
    """

    antenna: str
    tuner: Tuner
    true: TunerSetting

    def impedance_ohm(self, f: Real) -> Complex:
        """At its input, shape of the frequencies."""
        load = THINGS[self.antenna].seen(f)
        tee = tee_of(self.tuner, self.true, f)
        if self.true.side is not None:
            omega = 2 * math.pi * np.asarray(f, dtype=float)
            lead, stray = 1j * omega * LEAD_H, 1j * omega * STRAY_F
            tee = Tee(
                np.asarray(tee.upper_ohm + lead), np.asarray(tee.across_s + stray), np.asarray(tee.lower_ohm + lead)
            )
        return tee.near_ohm(load)


class TunerBench:
    """Keeps where the shafts are, as dials are turned to and fro."""

    def __init__(self, seed: int) -> None:
        self._seed = seed
        self._round: tuple[object, ...] = ()
        self._shafts: dict[str, float] = {}
        self.thing: TunerThing | None = None

    def set(self, text: str) -> None:
        """Turns the dials of a tuner, or puts another one there.

        Args:
            text: a JSON object: antenna, round, level, in_line, the tuner's stops and Q, its dials.

        Raises:
            ValueError: the text is not understood.
        """
        try:
            spec = json.loads(text)
            made = self._made(spec)
        except (KeyError, TypeError, AttributeError, json.JSONDecodeError) as why:
            raise ValueError("a tuner as a JSON object of its numbers") from why
        except RefusedError as why:
            raise ValueError(str(why)) from why
        self.thing = made

    def _made(self, spec: dict[str, Any]) -> TunerThing:
        tuner = Tuner(**spec["tuner"])
        dials = spec["dials"]
        side: Side | None = dials["side"]
        values = [math.nan if dials[name] is None else float(dials[name]) for name in CONTROLS]
        setting = BYPASSED if side is None else TunerSetting(side, *values)
        if side is not None and (side not in tuner.sides or not bool(inside(tuner, setting))):
            raise ValueError("dials between their stops")
        if spec["antenna"] not in THINGS:
            raise ValueError("an antenna of this bench")
        this_round = (spec["antenna"], int(spec["round"]), spec["level"])
        if this_round != self._round:
            self._round, self._shafts = this_round, {}
        rng = np.random.default_rng([self._seed, 5, int(spec["round"])])
        most = DIAL_ERRORS[spec["level"]]
        errors, q = rng.uniform(-most, most, 3), tuner.coil_q * rng.uniform(0.7, 1.3)
        true = [self._follow(name, v) * (1 + e) for name, v, e in zip(CONTROLS, values, errors, strict=True)]
        in_line = bool(spec["in_line"]) and side is not None
        return TunerThing(
            spec["antenna"], replace(tuner, coil_q=q), TunerSetting(side, *true) if in_line else BYPASSED
        )

    def _follow(self, name: str, dial: float) -> float:
        """Where a shaft is after its dial was turned there: it lags behind by its slack."""
        if math.isnan(dial):
            return dial
        shaft = self._shafts.get(name, dial)
        shaft = min(max(shaft, dial / (1 + SLACK)), dial * (1 + SLACK))
        self._shafts[name] = shaft
        return shaft
