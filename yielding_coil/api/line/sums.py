"""The plain sums of a line, by SWR and dB alone; no build is needed, nothing is kept."""

from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, Field

from yielding_coil import data
from yielding_coil.api.http import Figure, router_of
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import (
    Line,
    LineSums,
    ReadThrough,
    of_load,
    other_end_range,
    through_line,
    two_readings,
)
from yielding_coil.documents.fields import Finite, Hertz, LineLength, NotNegative, Words

router = router_of("line")

Swr = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class LossIn(BaseModel):
    """A line's matched loss: in dB, or by its cable, length and frequency."""

    matched_db: Annotated[NotNegative, Field(le=1000)] | None = None
    cable: Annotated[Words, Field(max_length=40)] | None = None
    length_m: LineLength | None = None
    at_hz: Hertz | None = None

    def db(self) -> float:
        """In dB.

        Raises:
            OutOfDomainError: neither is given, or a line of no length.
            NotFoundError: no such cable.
        """
        if self.matched_db is not None:
            return self.matched_db
        if self.cable is None or self.length_m is None or self.at_hz is None:
            raise OutOfDomainError("matched_db", "nothing", "a loss in dB, or a cable, its length and a frequency")
        if self.length_m == 0:
            raise OutOfDomainError("length_m", "0 m", "above zero: a line of no length changes nothing")
        line = Line(data.cable_row(self.cable).cable, self.length_m)
        return float(line.matched_loss_db(self.at_hz))

    def tolerance(self) -> float | None:
        """Two standard deviations of the cable's loss; None where it is told in dB."""
        by_db = self.matched_db is not None or self.cable is None
        return None if by_db or self.cable is None else data.cable_row(self.cable).loss_tolerance

    def impedance_ohm(self) -> float:
        """Of the cable; 50 Ω where none is named."""
        return 50.0 if self.cable is None else float(np.asarray(data.cable_row(self.cable).cable.impedance_ohm))


class LineSumsIn(BaseModel):
    """An SWR at one end of a line."""

    swr: Swr
    at: Literal["load", "radio"]
    line: LossIn


class LineSumsOut(BaseModel):
    """What it means at the other end; watts are of 100 W that go in."""

    swr_load: Figure
    swr_radio: Figure
    matched_db: Figure
    total_db: Figure
    extra_db: Figure
    highest_radio_swr: Figure
    return_loss_db: Figure
    arrives_w: Figure
    line_w: Figure
    extra_w: Figure
    forward_w: Figure
    reflected_w: Figure

    @classmethod
    def of(cls, sums: LineSums) -> "LineSumsOut":
        """From the core's."""
        return cls(**sums._asdict())


class EndsOut(LineSumsOut):
    """And between which SWR the other end lies nine times in ten; null where the loss was told in dB."""

    other_low: Figure
    other_high: Figure


@router.post("/line-sums")
def line_sums(asked: LineSumsIn) -> EndsOut:
    """SWR at one end of a line from the other's, matched and extra loss, and the watts."""
    db = asked.line.db()
    found, known = through_line(asked.swr, asked.at, db), asked.line.tolerance()
    low, high = (None, None) if known is None else other_end_range(asked.swr, asked.at, db, known)
    return EndsOut(**found._asdict(), other_low=low, other_high=high)


class LoadIn(BaseModel):
    """A load by its resistance and reactance."""

    resistance_ohm: Finite
    reactance_ohm: Finite = 0.0


class LoadSumsOut(BaseModel):
    """What it shows on 50 Ω; watts are of 100 that go forward."""

    swr: Figure
    return_loss_db: Figure
    reflected_w: Figure


@router.post("/line-sums/load")
def load_sums(asked: LoadIn) -> LoadSumsOut:
    """SWR and return loss of a load on 50 Ω."""
    return LoadSumsOut(**of_load(asked.resistance_ohm, asked.reactance_ohm)._asdict())


class ReadingThrough(BaseModel):
    """A reading through a line."""

    swr: Swr
    line: LossIn

    def to_core(self) -> ReadThrough:
        """For the core."""
        return ReadThrough(self.swr, self.line.db(), self.line.impedance_ohm())


class TwoReadingsIn(BaseModel):
    """Two readings of one antenna, each through its own line."""

    first: ReadingThrough
    second: ReadingThrough


class TwoReadingsOut(BaseModel):
    """How far loss explains the difference; what length and impedance can do to the rest."""

    # What each reading says of the antenna; null where it is higher than its line's loss lets any load read.
    first: LineSumsOut | None
    second: LineSumsOut | None
    by_loss_swr: Figure
    loss_share: Figure
    low_swr: Figure
    high_swr: Figure
    verdict: Literal["loss", "partly", "not by loss", "no difference"]
    rest_possible: bool


@router.post("/line-sums/two-readings")
def explain_two_readings(asked: TwoReadingsIn) -> TwoReadingsOut:
    """Whether loss explains that one antenna reads differently through two lines."""
    first, second = asked.first.to_core(), asked.second.to_core()
    found, other = two_readings(first, second), two_readings(second, first)
    return TwoReadingsOut(
        first=found.first and LineSumsOut.of(found.first),
        second=other.first and LineSumsOut.of(other.first),
        by_loss_swr=found.by_loss_swr,
        loss_share=found.loss_share,
        low_swr=found.low_swr,
        high_swr=found.high_swr,
        verdict=found.verdict,
        rest_possible=found.rest_possible,
    )
