"""What there is to know, as it travels: a code of its subject and SI values. The page has the sentences."""

from typing import Annotated, Any, Generic, TypeVar

from pydantic import BaseModel, BeforeValidator

from yielding_coil.api.http.numbers import number
from yielding_coil.core.finding import (
    AcquisitionCode,
    BenchCode,
    CalibrationCode,
    DesignCode,
    EvidenceCode,
    StopCode,
    TrimCode,
    WindingCode,
)

Code = TypeVar("Code", bound=str)


def _rounded(values: Any) -> Any:
    return {name: number(value) if isinstance(value, float) else value for name, value in values.items()}


class FindingOut(BaseModel, Generic[Code]):
    """Something to know, as a code and its SI values; the page has the words.

    `grave` is what is dealt with before anything else.
    """

    code: Code
    grave: bool
    values: Annotated[dict[str, float | str | None], BeforeValidator(_rounded)]


# A name of its own each, for the page's tables of words.
class DesignFinding(FindingOut[DesignCode]):
    """Of a design and its parts."""


class WindingFinding(FindingOut[WindingCode]):
    """Of one wound thing."""


class BenchFinding(FindingOut[BenchCode]):
    """Of sweeps on the bench."""


class EvidenceFinding(FindingOut[EvidenceCode]):
    """The one reading more that would settle what is open."""


class StopFinding(FindingOut[StopCode]):
    """Why a wire may stay as it is."""


class TrimFinding(FindingOut[TrimCode]):
    """Of a wire that is being trimmed; one that asks for a reading once more waits for a word that it is so."""

    asks_again: bool


class AcquisitionFinding(FindingOut[AcquisitionCode]):
    """Of a sweep as it is taken."""


class CalibrationFinding(FindingOut[CalibrationCode]):
    """Of the standards of a calibration."""
