"""An antenna of wire as it is kept: its kind, its plain numbers, its wire, the soil under it."""

from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field, model_validator

from yielding_coil.core.modelled_antenna import ModelledAntenna, modelled
from yielding_coil.core.system import Antenna
from yielding_coil.core.wire import AVERAGE_GROUND, KINDS, Ground, Hung, Insulation, OnRadials, Stock
from yielding_coil.documents.fields import Payload

# Who gives a kept sweep by its id, as an antenna for the core; and the frequencies that an antenna is asked for.
SweepOf = Callable[[UUID], Antenna]
Reach = tuple[float, float]

KindKey = Literal[
    "dipole",
    "sloping-dipole",
    "inverted-v",
    "linked-dipole",
    "loaded-dipole",
    "trap-dipole",
    "fan-dipole",
    "five-eighths-dipole",
    "dipole-beside",
    "vertical",
    "raised-vertical",
    "five-eighths",
    "loaded-vertical",
    "coil-isolated-vertical",
    "hat-vertical",
    "trap-vertical",
    "sleeve-dipole",
    "end-fed",
    "end-fed-on-shield",
    "end-fed-beside",
    "any-length",
    "triangle",
    "square",
    "nested-loops",
]
PlainNumber = Annotated[float, Field(ge=-1e4, le=1e9, allow_inf_nan=False)]


class WireStock(Payload):
    """The wire: its metal, and the covering over it, if any; diameters in metres."""

    diameter_m: Annotated[float, Field(ge=1e-5, le=0.1)] = 0.002
    conductor: Literal["copper", "aluminium", "steel"] = "copper"
    covering_m: Annotated[float, Field(ge=1e-5, le=0.2)] | None = None
    permittivity: Annotated[float, Field(ge=1, le=20)] = 2.5

    @model_validator(mode="after")
    def _over_the_wire(self) -> "WireStock":
        if self.covering_m is not None and self.covering_m <= self.diameter_m:
            raise ValueError("covering_m is the outer diameter: more than the wire's own")
        return self

    def to_core(self) -> Stock:
        """For the core."""
        cover = None if self.covering_m is None else Insulation(self.covering_m / 2, self.permittivity)
        return Stock(self.diameter_m / 2, self.conductor, cover)


class Soil(Payload):
    """The ground under it; farm land and gardens when left out."""

    conductivity_s_per_m: Annotated[float, Field(ge=1e-6, le=10)] = AVERAGE_GROUND.conductivity_s_per_m
    relative_permittivity: Annotated[float, Field(ge=1, le=100)] = AVERAGE_GROUND.relative_permittivity

    def to_core(self) -> Ground:
        """For the core."""
        return Ground(self.conductivity_s_per_m, self.relative_permittivity)


class RadialsFound(Payload):
    """What so many radials lose, by a sweep; another number of them loses something else."""

    radials: Annotated[float, Field(ge=0, le=1000)]
    ohm: Annotated[float, Field(ge=0, le=1000)]


class WireAntenna(Payload):
    """An antenna known from its model alone."""

    kind: Literal["wire"] = "wire"
    antenna: KindKey
    # By the names that its kind has; those left out as usual for 10 MHz.
    numbers: dict[Annotated[str, Field(max_length=20)], PlainNumber] = Field(max_length=16)
    stock: WireStock = WireStock()
    soil: Soil = Soil()
    # Null: between the least and the most of the table.
    radials_found: RadialsFound | None = None

    def hung(self) -> Hung:
        """As it hangs.

        Raises:
            OutOfDomainError: a number that its kind has not, or that it may not have.
        """
        made = KINDS[self.antenna].made(self.numbers, self.stock.to_core(), self.soil.to_core())
        told = self.radials_found
        if isinstance(made, OnRadials) and told is not None and told.radials == made.radials:
            own: Any = made
            made = replace(own, ground_ohm=told.ohm)
        return made

    def to_core(self, reach: Reach, swept: SweepOf | None = None) -> ModelledAntenna:
        """For a system, between two frequencies.

        Raises:
            OutOfDomainError: it cannot hang so.
        """
        return modelled(self.hung(), *reach)

    def as_found(self, hung: Hung) -> "WireAntenna":
        """With the numbers, the covering and the soil of one that was fitted to a sweep."""
        cover, soil = hung.stock.insulation, hung.soil
        stock = self.stock.model_copy(
            update={"covering_m": None if cover is None else round(2 * cover.outer_radius_m, 6)}
        )
        under = Soil(
            conductivity_s_per_m=soil.conductivity_s_per_m, relative_permittivity=soil.relative_permittivity
        )
        lose = None
        if isinstance(hung, OnRadials) and hung.ground_ohm is not None:
            lose = RadialsFound(radials=hung.radials, ohm=max(hung.ground_ohm, 0.0))
        changes = {"numbers": hung.numbers, "stock": stock, "soil": under, "radials_found": lose}
        return self.model_copy(update=changes)

    def with_numbers_of(self, hung: Hung) -> "WireAntenna":
        """The same wire and soil with the numbers of another."""
        return self.model_copy(update={"numbers": hung.numbers})
