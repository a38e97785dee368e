"""An installation on the simulated site that broke in a way nobody tells: for practice at finding a fault.

It comes as plain numbers. Where it hangs and what broke is drawn from the simulator's seed and the round.
"""

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from yielding_coil.analyser.bench import Site
from yielding_coil.analyser.breaking import Broken, Truth, draw_truth
from yielding_coil.analyser.building import part_from, part_numbers
from yielding_coil.analyser.hanging import as_it_hangs
from yielding_coil.analyser.practice import antenna_text
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.diagnosis import Act, Installation, acts_of, installation
from yielding_coil.core.errors import RefusedError
from yielding_coil.core.reflection import impedance_of, reflection_of
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS, Ground, Hung, Insulation, Stock

# What a test sweeps, and what a calibration leaves of each error of an analyser, root mean square, and its noise.
LOWEST_HZ, HIGHEST_HZ, POINTS, RESIDUAL, NOISE_RMS = 1.8e6, 30e6, 301, 0.005, 1.5e-3


def fault_text(one: Installation, hung: Hung, kind_key: str, act: str, *, number: int, sound: bool = False) -> str:
    """An installation and what is done to it, as a JSON object.

    Args:
        hung: its wires as planned, of a kind.
        act: the test whose plane is swept; any of its acts.
        number: of the round, from 0: another one breaks otherwise.
        sound: as it was before it broke.
    """
    return json.dumps(
        {
            **json.loads(antenna_text(hung, kind_key)),
            "bands": [[b.label, b.low_hz, b.high_hz, b.swr_limit] for b in one.bands],
            "elements": [
                {
                    "key": slot.key,
                    "kind": slot.kind,
                    "place": slot.element.place,
                    "in_match": slot.element.in_match,
                    "part": part_numbers(slot.element.part),
                }
                for slot in one.slots
                if slot.element is not None
            ],
            "feed_at": one.feed_at,
            "aloft_at": one.aloft_at,
            "tuner": any(slot.kind == "tuner" for slot in one.slots),
            "act": act,
            "number": number,
            "sound": sound,
        }
    )


@dataclass(frozen=True)
class FaultyThing:
    """One installation as it stands there, in one test.

    Args:
        text: as `fault_text` writes it.
        seed: the simulator's.

    Raises:
        ValueError: the text is not understood.
    """

    text: str
    seed: int

    def __post_init__(self) -> None:
        try:
            assert self.act is not None
            assert self.broken is not None
        except (KeyError, TypeError, AttributeError, StopIteration, json.JSONDecodeError) as why:
            raise ValueError("an installation as a JSON object of its parts") from why
        except RefusedError as why:
            raise ValueError(str(why)) from why

    @cached_property
    def _spec(self) -> Mapping[str, Any]:
        found: Mapping[str, Any] = json.loads(self.text)
        return found

    @cached_property
    def one(self) -> Installation:
        """As it was planned."""
        spec = self._spec
        told, (sigma, epsilon) = spec["stock"], spec["soil"]
        cover = None if told["outer_radius_m"] is None else Insulation(told["outer_radius_m"], told["permittivity"])
        kind = KINDS[spec["antenna"]]
        stock = Stock(told["radius_m"], told["conductor"], cover)
        hung = kind.made(spec["numbers"], stock, Ground(sigma, epsilon))
        elements = [
            (Element(each["key"], each["place"], part_from(each["part"]), bool(each["in_match"])), each["kind"])
            for each in spec["elements"]
        ]
        return installation(
            hung.structure(),
            kind.form,
            [Target(label, low, high, limit) for label, low, high, limit in spec["bands"]],
            elements,
            earths=hung.earths,
            tuner=bool(spec["tuner"]),
            feed_at=spec["feed_at"],
            aloft_at=spec["aloft_at"],
        )

    @cached_property
    def act(self) -> Act:
        """What is done to it."""
        return next(act for act in acts_of(self.one) if act.key == self._spec["act"])

    @cached_property
    def truth(self) -> Truth:
        """What broke."""
        return draw_truth(self.one, np.random.default_rng([self.seed, 21, int(self._spec["number"])]))

    @cached_property
    def broken(self) -> Broken:
        """As it really is."""
        spec, number = dict(self._spec), int(self._spec["number"])
        structure = as_it_hangs(spec, Site.of(self.seed)).structure()
        seasons = 0.0015 * np.random.default_rng([self.seed, 22, number]).normal(size=2)
        if spec["sound"]:
            return Broken(self.one, structure, None, self.seed, float(seasons[0]))
        return Broken(self.one, structure, self.truth, self.seed, float(seasons.sum()))

    def impedance_ohm(self, f: Real) -> Complex:
        """What is swept; of a test that is no sweep, an open end."""
        if self.act.reads != "sweep":
            return np.full(f.shape, 1e6 + 0j)
        return self.broken.impedance_ohm(f, self.act)

    def _swept(self) -> dict[str, object]:
        """As a well calibrated analyser reads it: what is left of its three errors turns on leads of its own."""
        f = np.linspace(LOWEST_HZ, max(HIGHEST_HZ, *(1.12 * b.high_hz for b in self.one.bands)), POINTS)
        rng = np.random.default_rng([self.seed, 23, int(self._spec["number"]), *self.act.key.encode()])
        gamma = reflection_of(self.impedance_ohm(f))
        size, turn = rng.rayleigh(RESIDUAL, size=3), rng.uniform(0, 12e-9, size=3)
        errors = size[:, None] * np.exp(-2j * math.pi * f * turn[:, None] + 2j * math.pi * rng.uniform(size=(3, 1)))
        noise = NOISE_RMS / math.sqrt(2) * (rng.normal(size=f.size) + 1j * rng.normal(size=f.size))
        read = gamma + errors[0] + errors[1] * gamma + errors[2] * gamma**2 + noise
        z = impedance_of(read * np.minimum(1.0, 0.9995 / np.abs(read)))
        return {"f": f.tolist(), "r": np.round(z.real, 4).tolist(), "x": np.round(z.imag, 4).tolist()}

    def read(self) -> str:
        """What a test gives, as a JSON object."""
        if self.act.reads == "look":
            return json.dumps({"kind": "look", "answer": self.broken.look(self.act)})
        if self.act.reads == "ohm":
            ohm = self.broken.ohm(self.act)
            return json.dumps({"kind": "ohm", "ohm": None if math.isinf(ohm) or ohm > 1e6 else round(ohm, 2)})
        return json.dumps({"kind": "sweep", **self._swept()})

    def told(self) -> str:
        """What broke, told: element, fault, and where on the line, if there."""
        truth = self.truth
        broken = Broken(self.one, self.broken.structure, truth, self.seed)
        return json.dumps({"element": truth.key, "fault": truth.code, "at_m": broken.place_m()})
