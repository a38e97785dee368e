"""What one reading without a file carries, and what several say together: a dip, its side, the reading wanted."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from yielding_coil.core.finding import EvidenceCode, Finding
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.trim.dial import dip_of
from yielding_coil.core.trim.meter_readings import (
    BOTH_SIDES,
    REPEATED,
    Dip,
    SwrPoint,
    dip_between,
    resistance_and_size,
    signs_of,
    swr_of_powers,
)

# Lowest SWR lies near resonance, not at it: one standard deviation, relative (common practice).
NEAR_RESONANCE = 0.003
# A power meter whose full scale was set once for all strays so many times as far (common practice).
FULL_SCALE_ONCE = 3.0


class UnsignedImpedance(NamedTuple):
    """R and the size of X at a frequency."""

    frequency_hz: float
    resistance_ohm: float
    size_reactance_ohm: float


class SignedImpedance(NamedTuple):
    """The same, and X itself where its sign is known."""

    frequency_hz: float
    resistance_ohm: float
    size_reactance_ohm: float
    reactance_ohm: float | None


@dataclass(frozen=True, slots=True)
class Evidence:
    """What one reading carries.

    Args:
        points: SWR at frequencies; none of a dip or of edges, which say more than points.
        impedances: R and the size of X.
        dip: where the reading is one.
    """

    points: tuple[SwrPoint, ...] = ()
    impedances: tuple[UnsignedImpedance, ...] = ()
    dip: Dip | None = None


def of_dip(dip_hz: float, swr: float | None = None) -> Evidence:
    """The dip itself, as a person found it by turning the dial: it repeats to REPEATED."""
    reach = BOTH_SIDES * REPEATED
    return Evidence(dip=Dip("found", dip_hz, REPEATED, swr, dip_hz * (1 - reach), dip_hz * (1 + reach), None))


def of_swr(points: Iterable[tuple[float, float]], spread: float) -> Evidence:
    """SWR at some frequencies.

    Args:
        points: frequency in hertz and SWR.
        spread: of |Γ| on this meter, one standard deviation.
    """
    return Evidence(tuple(SwrPoint(hz, swr, spread) for hz, swr in points))


def of_edges(low_hz: float | None, high_hz: float | None, swr: float, spread: float) -> Evidence:
    """Where the SWR crosses a value; an edge that was not reached is None.

    Raises:
        OutOfDomainError: no edge, or edges in the wrong order.
    """
    return Evidence(dip=dip_between(low_hz, high_hz, swr, spread))


def of_sizes(points: Iterable[tuple[float, float, float]], spread: float) -> Evidence:
    """|Z| with SWR.

    Args:
        points: frequency in hertz, |Z| in ohm, SWR.

    Raises:
        ContradictionError: |Z| and SWR that no impedance has.
    """
    rows = list(points)
    impedances = (UnsignedImpedance(hz, *resistance_and_size(ohm, swr)) for hz, ohm, swr in rows)
    return Evidence(tuple(SwrPoint(hz, swr, spread) for hz, _, swr in rows), tuple(impedances))


def of_unsigned(points: Iterable[tuple[float, float, float]], spread: float) -> Evidence:
    """R, and X without its sign.

    Args:
        points: frequency in hertz, R and |X| in ohm.
    """
    impedances = tuple(UnsignedImpedance(*row) for row in points)
    swr = (
        SwrPoint(z.frequency_hz, float(swr_of_impedance(complex(z.resistance_ohm, z.size_reactance_ohm))), spread)
        for z in impedances
    )
    return Evidence(tuple(swr), impedances)


def of_powers(
    points: Iterable[tuple[float, float, float]], spread: float, *, full_scale_each: bool = True
) -> Evidence:
    """Forward and reflected power.

    Args:
        points: frequency in hertz, forward and reflected watts.
        full_scale_each: whether full scale was set anew at each frequency, as it has to be.

    Raises:
        ContradictionError: powers that no load gives back.
    """
    wide = spread if full_scale_each else FULL_SCALE_ONCE * spread
    return Evidence(tuple(SwrPoint(hz, swr_of_powers(forward, back), wide) for hz, forward, back in points))


@dataclass(frozen=True, slots=True)
class Weighed:
    """What readings say together; `ask` and `ask_sign` are the one reading more that would settle dip and sign."""

    points: tuple[SwrPoint, ...]
    impedances: tuple[SignedImpedance, ...]
    dip: Dip | None
    ask: Finding[EvidenceCode] | None
    ask_sign: Finding[EvidenceCode] | None


def evidence_of(readings: Sequence[Evidence]) -> Weighed:
    """Readings of one antenna as it now hangs, put together.

    Raises:
        ContradictionError: two of them, or one with itself, cannot be right.
    """
    points = tuple(p for reading in readings for p in reading.points)
    found = sorted((z for reading in readings for z in reading.impedances), key=lambda z: z.frequency_hz)
    # One value a frequency: of two at the same the later counts, their contradiction is the points'.
    impedances = list({z.frequency_hz: z for z in found}.values())
    direct = [reading.dip for reading in readings if reading.dip is not None]
    settled = [dip for dip in direct if dip.side == "found"]
    dip = settled[-1] if settled else dip_of(points) if points else direct[-1] if direct else None
    ask: Finding[EvidenceCode] | None = None
    ask_sign: Finding[EvidenceCode] | None = None
    signed: Sequence[float | None] = [None] * len(impedances)
    if impedances:
        signs = signs_of(
            [z.frequency_hz for z in impedances],
            [z.size_reactance_ohm for z in impedances],
            [z.resistance_ohm for z in impedances],
        )
        signed = signs.reactance_ohm
        if signs.resonance_hz is not None and (dip is None or dip.side != "found"):
            dip = dip_at_resonance(signs.resonance_hz, impedances)
        if signs.read_next_hz is not None:
            ask_sign = Finding("read_sign_at", {"frequency_hz": signs.read_next_hz})
    if dip is not None and dip.read_next_hz is not None:
        ask = Finding("read_swr_at", {"frequency_hz": dip.read_next_hz, "side": dip.side})
    both = tuple(SignedImpedance(*z, x) for z, x in zip(impedances, signed, strict=True))
    return Weighed(points, both, dip, ask, ask_sign)


def dip_at_resonance(frequency_hz: float, impedances: Sequence[UnsignedImpedance]) -> Dip:
    """X = 0 where SWR is too flat to show its lowest point; near it, not at it."""
    nearest = min(impedances, key=lambda z: abs(z.frequency_hz - frequency_hz))
    swr = float(swr_of_impedance(complex(nearest.resistance_ohm)))
    low, high = (frequency_hz * (1 + side * BOTH_SIDES * NEAR_RESONANCE) for side in (-1, 1))
    return Dip("found", frequency_hz, NEAR_RESONANCE, swr, low, high, None)


def dips_of(readings: Sequence[Evidence]) -> tuple[Weighed, list[Dip]]:
    """What readings say together, and their dips: each found by hand is one of its own, points add up to one."""
    together = evidence_of(readings)
    each = [r.dip for r in readings if r.dip is not None and r.dip.side == "found"]
    return together, each or ([together.dip] if together.dip is not None else [])
