"""The plain sums of a line, by SWR and dB alone: what one end says of the other, and two readings of one antenna.

Against the line's own impedance, taken as real. A line takes its matched loss from the return loss twice.
"""

import math
from dataclasses import dataclass
from typing import Literal, NamedTuple

from yielding_coil.core.arrays import require_not_negative
from yielding_coil.core.errors import OutOfDomainError

LineEnd = Literal["load", "radio"]
Explained = Literal["loss", "partly", "not by loss", "no difference"]
# Standard deviations to either side within which nine of ten of a normal lie.
NINE_OF_TEN = 1.645
# Two standard deviations of a reading of SWR by two meters, relative (common practice: a tenth apart at 2 : 1).
READING_SPREAD = 0.05


def reflection_at(swr: float) -> float:
    """|Γ| of an SWR.

    Raises:
        OutOfDomainError: below 1, or not finite.
    """
    if not 1 <= swr < math.inf:
        raise OutOfDomainError("swr", swr, "1 or more: an SWR is never below 1")
    return (swr - 1) / (swr + 1)


def swr_at(reflection: float) -> float:
    """SWR of |Γ|; endless from 1 on."""
    return (1 + reflection) / (1 - reflection) if reflection < 1 else math.inf


class LineSums(NamedTuple):
    """A line between its two ends.

    Args:
        swr_load, swr_radio: on the line at either end.
        matched_db, total_db, extra_db: its loss matched, with this load, and the difference.
        highest_radio_swr: that can be read at the radio's end, whatever hangs on the far one.
        return_loss_db: at the radio's end; endless at 1 : 1.
        arrives_w, line_w, extra_w: of 100 W that go in: into the load, in the line, and what of that is the SWR's.
        forward_w, reflected_w: at the radio's end, where 100 W go in.
    """

    swr_load: float
    swr_radio: float
    matched_db: float
    total_db: float
    extra_db: float
    highest_radio_swr: float
    return_loss_db: float
    arrives_w: float
    line_w: float
    extra_w: float
    forward_w: float
    reflected_w: float


def through_line(swr: float, at: LineEnd, matched_db: float) -> LineSums:
    """What an SWR at one end of a line means at the other.

    Args:
        swr: at that end, against the line's impedance, 1 or more.
        matched_db: loss of the line with a matched load, zero or more.

    Raises:
        OutOfDomainError: an SWR below 1, a loss below zero, or an SWR at the radio that no load can cause.

    Source:
        |Γ| at the radio is |Γ| at the load, less twice the matched loss; total loss 10·log10[(a² − |Γ|²) /
        (a·(1 − |Γ|²))] with a = 10^(matched/10) and Γ at the load (handbook formula; the ratio of
        real powers, Pozar, Microwave Engineering, §2.7).

    >>> sums = through_line(2.0, "radio", 1.0)
    >>> round(sums.swr_load, 2), round(sums.extra_db, 2), round(sums.highest_radio_swr, 2)
    (2.45, 0.33, 8.72)
    """
    require_not_negative("matched_db", matched_db)
    if not math.isfinite(matched_db):
        raise OutOfDomainError("matched_db", matched_db, "a loss in dB")
    a = 10 ** (matched_db / 10)
    ceiling = swr_at(1 / a)
    given = reflection_at(swr)
    if at == "radio" and given * a >= 1:
        raise OutOfDomainError(
            "swr",
            f"{swr:.3g} at the radio",
            f"below {ceiling:.3g}: behind {matched_db:.2f} dB nothing reads higher, not even an open end",
        )
    load, radio = (given, given / a) if at == "load" else (given * a, given)
    total = 10 * math.log10((a * a - load * load) / (a * (1 - load * load)))
    arrives = 100 * 10 ** (-total / 10)
    forward = 100 / (1 - radio * radio)
    return LineSums(
        swr_at(load),
        swr_at(radio),
        matched_db,
        total,
        total - matched_db,
        ceiling,
        -20 * math.log10(radio) if radio else math.inf,
        arrives,
        100 - arrives,
        100 * 10 ** (-matched_db / 10) - arrives,
        forward,
        forward - 100,
    )


def other_end_range(swr: float, at: LineEnd, matched_db: float, loss_tolerance: float) -> tuple[float, float]:
    """Between which SWR the other end lies nine times in ten, by what is known of a cable's loss.

    Args:
        swr, at, matched_db: as `through_line` has them.
        loss_tolerance: two standard deviations of the loss, relative.

    Returns:
        Low and high; endless where more loss than the nominal one would mean an open end.
    """
    found = []
    for sign in (-1, 1):
        loss = matched_db * max(0.0, 1 + sign * NINE_OF_TEN / 2 * loss_tolerance)
        a, given = 10 ** (loss / 10), reflection_at(swr)
        found.append(swr_at(given * a if at == "radio" else given / a))
    return min(found), max(found)


@dataclass(frozen=True, slots=True)
class ReadThrough:
    """A reading through a cable: the SWR that was read, its matched loss, and how far its own impedance is off.

    Args:
        impedance_ohm: of the cable, nominal.
        impedance_tolerance: the most that it is off, relative.
    """

    swr: float
    matched_db: float
    impedance_ohm: float = 50.0
    impedance_tolerance: float = 0.02

    @property
    def mismatch(self) -> float:
        """|Γ| of the cable's own impedance against 50 Ω, at the most."""
        both = (self.impedance_ohm * (1 + sign * self.impedance_tolerance) for sign in (-1, 1))
        return max(abs((z - 50) / (z + 50)) for z in both)


@dataclass(frozen=True, slots=True)
class TwoReadings:
    """Two readings of one antenna, each through its own cable.

    Args:
        first: what the first says of the antenna; None where it is higher than its loss lets any load read.
        by_loss_swr: what the second should read by the difference of loss alone.
        loss_share: how much of the difference of return loss, in dB, the loss explains; None without a difference.
        low_swr, high_swr: between what the second may read, once lengths and impedances are what they may be.
        verdict: "loss" where the rest is within what two readings differ by; "partly"; "not by loss" where the
            loss works the other way.
        rest_possible: whether length and impedance can make up the rest.
    """

    first: LineSums | None
    by_loss_swr: float
    loss_share: float | None
    low_swr: float
    high_swr: float
    verdict: Explained
    rest_possible: bool


def two_readings(first: ReadThrough, second: ReadThrough) -> TwoReadings:
    """How far the loss of two cables explains that one antenna reads differently through them.

    Raises:
        OutOfDomainError: an SWR below 1, or a loss below zero.

    Source:
        Each cable takes twice its matched loss from the return loss. What a cable of another impedance shows
        at its near end lies within a circle of |Γ| between (|q| − k)/(1 − |q|k) and (|q| + k)/(1 + |q|k), q its own
        reflection (Pozar, Microwave Engineering, §2.3); how far round depends on its length.
    """
    for each in (first, second):
        require_not_negative("matched_db", each.matched_db)
    a, b = 10 ** (first.matched_db / 10), 10 ** (second.matched_db / 10)
    seen, other = reflection_at(first.swr), reflection_at(second.swr)
    sums = through_line(first.swr, "radio", first.matched_db) if seen * a < 1 else None
    expected = min(seen * a, 1.0) / b
    # Every step between impedances widens what may be: into the first cable, out of it, into the second, out again.
    low, high = _widened(*_read(first.swr), first.mismatch)
    low, high = _widened(min(low * a, 1.0), min(high * a, 1.0), first.mismatch)
    low, high = _widened(low, high, second.mismatch)
    low, high = _widened(low / b, high / b, second.mismatch)
    least, most = _read(second.swr)
    share: float | None = None
    verdict: Explained = "no difference"
    if seen > 0 and other > 0 and not math.isclose(seen, other, rel_tol=1e-9):
        share = (2 * (second.matched_db - first.matched_db)) / (20 * math.log10(seen / other))
        verdict = "not by loss" if share <= 0 else "partly"
    if least <= expected <= most and verdict != "no difference":
        verdict = "loss"
    elif verdict == "no difference" and not least <= expected <= most:
        verdict = "not by loss"
    return TwoReadings(
        sums,
        swr_at(expected),
        share,
        swr_at(low),
        swr_at(high),
        verdict,
        least <= high and low <= most,
    )


def _read(swr: float) -> tuple[float, float]:
    """Between which |Γ| a reading lies."""
    return reflection_at(max(1.0, swr * (1 - READING_SPREAD))), reflection_at(swr * (1 + READING_SPREAD))


def _widened(low: float, high: float, q: float) -> tuple[float, float]:
    """Between which sizes of Γ one is carried by changes of reference of up to q."""
    return max(0.0, (low - q) / (1 - low * q)), (high + q) / (1 + high * q)


class LoadSums(NamedTuple):
    """A load on 50 Ω: SWR, return loss in dB (endless at a match), and the watts of 100 forward that come back."""

    swr: float
    return_loss_db: float
    reflected_w: float


def of_load(resistance_ohm: float, reactance_ohm: float) -> LoadSums:
    """What a load shows on 50 Ω.

    Raises:
        OutOfDomainError: a resistance that is not above zero: such a load takes no power.

    >>> round(of_load(25.0, 0.0).swr, 9)
    2.0
    """
    if not resistance_ohm > 0 or not math.isfinite(resistance_ohm) or not math.isfinite(reactance_ohm):
        raise OutOfDomainError("resistance_ohm", f"{resistance_ohm:g} Ω", "above zero: without R no power is taken")
    z = complex(resistance_ohm, reactance_ohm)
    size = abs((z - 50) / (z + 50))
    return LoadSums(swr_at(size), -20 * math.log10(size) if size else math.inf, 100 * size * size)
