"""Amateur bands of the chosen region, with what the visitor changed or added."""

from pydantic import BaseModel
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.documents.band import FrequencyRange, OwnBand
from yielding_coil.store import builds as queries

router = router_of("tables", "/api/tables")


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
