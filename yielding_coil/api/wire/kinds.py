"""Kinds of antenna and of soil, as the core knows them."""

from pydantic import BaseModel, ConfigDict

from yielding_coil.api.http import router_of
from yielding_coil.core.wire import (
    FORMS,
    KINDS,
    NUMBERS,
    SOILS,
    AntennaKind,
    Arrangement,
    Number,
    NumberUnit,
    WireForm,
)
from yielding_coil.documents.wire import KindKey, Soil

router = router_of("wire", "/api/structures")


class _Out(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class NumberOut(_Out):
    """A plain number: what it is called, and between what it may lie, in SI units."""

    name: str
    label: str
    unit: NumberUnit
    least: float
    most: float


class AntennaKindOut(_Out):
    """A kind of antenna, in words of the trade; the form is how it is cut and trimmed."""

    key: KindKey
    name: str
    purpose: str
    fed_by: str
    feed_ohm: float
    not_modelled: str
    form: WireForm
    resonant: bool
    # Whether it shows kilohms, and stands behind an unun.
    by_unun: bool
    # Whether several of it serve several bands, linked or nested.
    in_sets: bool
    # How many bands it serves at once, by its build.
    bands: int
    # How the wires of such a kind lie to each other.
    arrangement: Arrangement
    # The number that brings its dip to a band.
    tuned_by: str
    numbers: list[NumberOut]


@router.get("/kinds")
def antenna_kinds() -> list[AntennaKindOut]:
    """Every kind there is."""
    return [
        AntennaKindOut.model_validate(
            {
                **_of(kind),
                "numbers": [_number(n) for n in kind.start(1e7).told_by()],
                "tuned_by": kind.start(1e7).tuned_by,
            }
        )
        for kind in KINDS.values()
    ]


class SoilOut(BaseModel):
    """What is under an antenna, as people call it."""

    key: str
    name: str
    soil: Soil


@router.get("/soils")
def antenna_soils() -> list[SoilOut]:
    """Usual ones; conductivity is known to a factor of three."""
    return [
        SoilOut(
            key=each.key,
            name=each.name,
            soil=Soil(
                conductivity_s_per_m=each.ground.conductivity_s_per_m,
                relative_permittivity=each.ground.relative_permittivity,
            ),
        )
        for each in SOILS.values()
    ]


def _of(kind: AntennaKind) -> dict[str, object]:
    names = (
        "key",
        "name",
        "purpose",
        "fed_by",
        "feed_ohm",
        "not_modelled",
        "form",
        "resonant",
        "by_unun",
        "bands",
        "arrangement",
    )
    return {**{name: getattr(kind, name) for name in names}, "in_sets": FORMS[kind.form].in_sets}


def _number(name: str) -> NumberOut:
    known: Number = NUMBERS[name]
    return NumberOut.model_validate(known)
