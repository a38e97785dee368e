"""Everything drawn of an impedance, thinned to what a chart can show."""

import bisect
from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from yielding_coil.api.http import Numbers, numbers, rows_of_numbers
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.line import Line
from yielding_coil.core.reflection import impedance_of, reflection_of, return_loss_db, swr_of
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep, SwrSweep, thinned

# Fewer samples than this leave what lies between them to guessing; they are drawn as dots.
FEW = 24


class Rows(BaseModel):
    """Everything drawn of an impedance; one entry per frequency, null where there is no finite value."""

    resistance_ohm: Numbers
    reactance_ohm: Numbers
    swr: Numbers
    return_loss_db: Numbers
    gamma_real: Numbers
    gamma_imag: Numbers


class Curves(Rows):
    """The same, with its frequencies."""

    frequency_hz: Numbers

    @classmethod
    def from_core(cls, frequency_hz: Real, impedance_ohm: Complex) -> "Curves":
        """As they travel, Γ and SWR against 50 Ω."""
        rows = rows_of_numbers(drawn_of(impedance_ohm))
        return cls.model_construct(
            frequency_hz=frequency_hz.tolist(),
            **dict(zip(DRAWN, rows, strict=True)),  # type: ignore[arg-type]
        )


DRAWN = ("resistance_ohm", "reactance_ohm", "swr", "return_loss_db", "gamma_real", "gamma_imag")


def drawn_of(impedance_ohm: Complex) -> Real:
    """The rows named in `DRAWN`, of impedances of shape (..., n): shape (..., 6, n)."""
    gamma = reflection_of(impedance_ohm)
    rows = (
        impedance_ohm.real,
        impedance_ohm.imag,
        swr_of(gamma),
        return_loss_db(gamma),
        gamma.real,
        gamma.imag,
    )
    return np.stack(rows, axis=-2)


class Fan(BaseModel):
    """Edges of the 90 % bands of R, X and SWR; one entry per frequency of the curves."""

    low_resistance_ohm: Numbers
    high_resistance_ohm: Numbers
    low_reactance_ohm: Numbers
    high_reactance_ohm: Numbers
    low_swr: Numbers
    high_swr: Numbers

    @classmethod
    def between(cls, low_ohm: Complex, high_ohm: Complex, low_swr: Real, high_swr: Real) -> "Fan":
        """From edges as the core gives them."""
        rows = np.stack([low_ohm.real, high_ohm.real, low_ohm.imag, high_ohm.imag, low_swr, high_swr])
        return cls.model_construct(None, **dict(zip(cls.model_fields, rows_of_numbers(rows), strict=True)))

    @classmethod
    def of(cls, found: Sweep, doubt: ReflectionUncertainty, drawn_hz: Real) -> "Fan":
        """Of a sweep with its doubt, at the frequencies drawn, which are among its own."""
        at = np.clip(np.searchsorted(found.frequency_hz, drawn_hz), 0, found.frequency_hz.size - 1)
        gamma, z, own = found.reflection()[at], found.impedance_ohm[at], doubt.at(at)
        r, x = own.impedance_bands(gamma)
        return cls.between(z - (r + 1j * x), z + (r + 1j * x), *own.swr_band(gamma))


def _open(drawn: dict[str, Numbers], gaps: Sequence[tuple[float, float]]) -> None:
    """A place without values in the middle of each gap: a line drawn breaks there."""
    for low, high in gaps:
        at = bisect.bisect_right(drawn["frequency_hz"], low)  # type: ignore[type-var]
        drawn["frequency_hz"].insert(at, (low + high) / 2)
        for name in DRAWN:
            drawn[name].insert(at, None)


class Gap(BaseModel):
    """A stretch without samples."""

    low_hz: float
    high_hz: float


class SweepCurves(Curves):
    """Curves of a sweep. With few samples they are guessed between those in `sampled_hz`.

    `fan` is there where it is known how sure the sweep is; `ceiling`, the highest SWR that can be read, where it
    was taken behind a line.
    """

    sampled_hz: Numbers
    fan: Fan | None = None
    ceiling: Numbers | None = None
    gaps: list[Gap] = []

    @classmethod
    def of(
        cls,
        found: Sweep | SwrSweep,
        low_hz: float,
        high_hz: float,
        points: int,
        doubt: ReflectionUncertainty | None = None,
        behind: Line | None = None,
    ) -> "SweepCurves":
        """As drawn between two frequencies: the samples, or the extremes of each column of too many."""
        frequency = found.frequency_hz
        inside = frequency[(frequency >= low_hz) & (frequency <= high_hz)]
        few = inside.size < FEW
        sampled = numbers(inside) if few else []
        if few:
            low, high = max(low_hz, found.low_hz), min(high_hz, found.high_hz)
            between = np.linspace(low, max(low, high), max(2, points - inside.size))
            frequency = np.unique(np.concatenate([between, inside]))
        else:
            frequency = inside
        if isinstance(found, SwrSweep):
            # As the resistor above 50 Ω that would show it: of that only SWR and return loss are told.
            impedance = impedance_of(np.minimum(found.magnitude_at(frequency), 1 - 1e-9).astype(complex))
        elif few:
            impedance = found.impedance_at(frequency)
        else:
            impedance = found.impedance_ohm[(found.frequency_hz >= low_hz) & (found.frequency_hz <= high_hz)]
        drawn = dict(Curves.from_core(*thinned(frequency, impedance, max(points, FEW + 2))))
        if isinstance(found, SwrSweep):
            unknown: Numbers = [None] * len(drawn["frequency_hz"])
            drawn.update(dict.fromkeys(("resistance_ohm", "reactance_ohm", "gamma_real", "gamma_imag"), unknown))
        gaps = [gap for gap in found.gaps if low_hz < gap[0] and gap[1] < high_hz]
        _open(drawn, gaps)
        hertz = np.asarray(drawn["frequency_hz"], dtype=float)
        return cls.model_construct(
            None,
            **drawn,
            sampled_hz=sampled,
            gaps=[Gap.model_construct(low_hz=float(low), high_hz=float(high)) for low, high in gaps],
            fan=Fan.of(found, doubt, hertz) if doubt is not None and not few and isinstance(found, Sweep) else None,
            ceiling=None if behind is None else numbers(np.asarray(behind.highest_swr(hertz, 50.0))),
        )
