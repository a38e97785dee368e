"""Amateur bands of the chosen region, with what the visitor changed or added."""

from typing import Annotated, Literal

from pydantic import BaseModel, Field, model_validator
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.documents.fields import Hertz, Payload
from yielding_coil.store import builds as queries

router = router_of("tables", "/api/tables")

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


class BandOut(OwnBand):
    """An amateur band; `changed` where it is not the table's."""

    key: str
    changed: bool
    own: bool


class BandsOut(BaseModel):
    """The bands of a region, lowest first, and where they come from."""

    region: int
    source: str
    rows: list[BandOut]


def bands_for(session: Session) -> list[BandOut]:
    """The bands as this installation has them."""
    settings = queries.settings(session)
    table = data.bands(settings.region)
    rows = {
        key: BandOut(
            key=key,
            label=row.label,
            low_hz=row.low_hz,
            high_hz=row.high_hz,
            segments={m: FrequencyRange(low_hz=e[0], high_hz=e[1]) for m, e in row.segments.items()},  # type: ignore[misc]
            changed=False,
            own=False,
        )
        for key, row in table.items()
    }
    for key, kept in settings.bands.items():
        rows[key] = BandOut(
            key=key, changed=True, own=key not in table, **OwnBand.model_validate(kept).model_dump()
        )
    return sorted(rows.values(), key=lambda b: (b.low_hz, b.high_hz))


@router.get("/bands")
def bands(session: InTransaction) -> BandsOut:
    """Amateur bands of the region in the settings, with what was changed."""
    return BandsOut(
        region=queries.settings(session).region, source=data.source_of("bands"), rows=bands_for(session)
    )
