"""What people type, read by the core's one reader."""

from typing import Literal

from pydantic import BaseModel, Field

from yielding_coil.api.http import router_of
from yielding_coil.core.quantity import Kind, decimal_feet, parse

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


@router.post("/quantities")
def read_quantity(asked: QuantityIn) -> QuantityRead:
    """Read one typed quantity."""
    value = parse(asked.text, asked.kind, asked.length_unit)
    return QuantityRead(
        value=value, not_m=decimal_feet(asked.text, asked.length_unit) if asked.kind == "length" else None
    )
