"""What people type, read by the core's one reader."""

from typing import Literal

from pydantic import BaseModel, Field

from yielding_coil.api.http import router_of
from yielding_coil.core.quantity import Kind, decimal_feet, parse, plain_forms

router = router_of("quantities")


class QuantityIn(BaseModel):
    """A text and what its field holds."""

    text: str = Field(max_length=80)
    kind: Kind
    length_unit: Literal["m", "ft"] = "m"


class QuantityRead(BaseModel):
    """The value in SI; of decimals of a foot also what it would be were they inches, which they are not."""

    value: float
    not_m: float | None


class PlainFormOut(BaseModel):
    """How a number with one unit is read: what one of each unit is in SI, and the values that may be."""

    units: dict[str, float]
    least: float
    most: float
    example: str


@router.get("/quantities/plain")
def plain_quantities() -> dict[str, PlainFormOut]:
    """By kind, how a page reads what a dial or a tape shows while it cannot ask."""
    return {
        kind: PlainFormOut(units=dict(form.units), least=form.least, most=form.most, example=form.example)
        for kind, form in plain_forms().items()
    }


@router.post("/quantities")
def read_quantity(asked: QuantityIn) -> QuantityRead:
    """Read one typed quantity."""
    value = parse(asked.text, asked.kind, asked.length_unit)
    return QuantityRead(
        value=value, not_m=decimal_feet(asked.text, asked.length_unit) if asked.kind == "length" else None
    )
