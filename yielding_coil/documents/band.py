"""Bands as a visitor wants them: the table's with other edges, or of his own."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.documents.fields import Hertz, Payload

Segment = Literal["telegraphy", "digital", "speech"]
MOST_OWN = 60


class FrequencyRange(Payload):
    """From one frequency to another."""

    low_hz: Hertz
    high_hz: Hertz

    @model_validator(mode="after")
    def _upright(self) -> "FrequencyRange":
        if not self.low_hz < self.high_hz:
            raise OutOfDomainError("high_hz", self.high_hz, f"above low_hz, {self.low_hz:g} Hz")
        return self


class OwnBand(FrequencyRange):
    """A band as the visitor wants it: the table's with other edges, or one of their own."""

    label: Annotated[str, Field(min_length=1, max_length=40)]
    segments: dict[Segment, FrequencyRange] = Field(default_factory=dict)


OwnBands = Annotated[dict[Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")], OwnBand], Field(max_length=MOST_OWN)]
