"""What people type, read by the core's one reader."""

from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from yielding_coil.api.problems import RESPONSES
from yielding_coil.core.quantity import Kind, parse

router = APIRouter(prefix="/api", tags=["quantities"], responses=RESPONSES)


class QuantityAsked(BaseModel):
    """A text and what its field holds."""

    text: str = Field(max_length=80)
    kind: Kind
    length_unit: Literal["m", "ft"] = "m"


class QuantityRead(BaseModel):
    """The value in SI."""

    value: float


@router.post("/quantities")
def read_quantity(asked: QuantityAsked) -> QuantityRead:
    """Read one typed quantity."""
    return QuantityRead(value=parse(asked.text, asked.kind, asked.length_unit))
