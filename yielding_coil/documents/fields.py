"""What every payload kept as JSON is made of: bounded numbers, words, and nothing unknown."""

from typing import Annotated, Any
from uuid import UUID

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

# Wide enough for anything that is made of wire, narrow enough that no sum of them overflows.
MOST = 1e15
Positive = Annotated[float, Field(gt=1e-18, le=MOST, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=MOST, allow_inf_nan=False)]
Finite = Annotated[float, Field(ge=-MOST, le=MOST, allow_inf_nan=False)]
Hertz = Annotated[float, Field(ge=1, le=1e12, allow_inf_nan=False)]
# Counts changes of a row; as large as the database's own whole numbers.
Counted = Annotated[int, Field(ge=0, le=2**31 - 1)]
# A part, a turn, a wire, in metres; a length of line.
PartLength = Annotated[float, Field(ge=1e-6, le=100, allow_inf_nan=False)]
LineLength = Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)]
Henry = Annotated[float, Field(ge=1e-12, le=1e3, allow_inf_nan=False)]
Farad = Annotated[float, Field(ge=1e-18, le=1.0, allow_inf_nan=False)]
Quality = Annotated[float, Field(ge=0.1, le=1e9, allow_inf_nan=False)]
SpreadOf = Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)]


def plain(text: str) -> str:
    """A text without what no database takes and no eye sees."""
    return "".join(c if c.isprintable() else " " for c in text).strip()


# What a person wrote, in one line.
Words = Annotated[str, AfterValidator(plain)]


class Payload(BaseModel):
    """A thing kept as JSON: nothing unknown in it, nothing infinite."""

    model_config = ConfigDict(extra="forbid")


class LeavesWire(Payload):
    """Something after which the wire is as it was."""

    def event(self) -> None:
        """The wire stayed as it was."""


def _stands(values: dict[str, Any]) -> dict[str, Any]:
    """What a capacitor stands is a number: all else of a snapshot is shown as it is, this is computed with."""
    volts = values.get("voltage_v")
    if volts is not None and (type(volts) not in (int, float) or not 1 <= volts <= 1e6):
        raise ValueError("voltage_v must be a number from 1 to 1,000,000 volts")
    return values


class PieceSnapshot(Payload):
    """A piece of the drawer as it was when this revision was made."""

    id: UUID
    revision: Counted
    values: Annotated[dict[str, Any], AfterValidator(_stands)]
