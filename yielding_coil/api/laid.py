"""What the reports of wound things share: the grid, what is cut, what fits where, what a core's data leave open."""

import math

import numpy as np

from yielding_coil import data
from yielding_coil.api.making import Finding
from yielding_coil.api.numbers import numbers
from yielding_coil.api.warmth import HeatOut
from yielding_coil.api.wound import BoxFit, CutOut, FitOut, SeenOut, WindingAsked
from yielding_coil.core.arrays import Complex, Real
from yielding_coil.core.ring import Material, Ring
from yielding_coil.core.winding import Winding
from yielding_coil.documents.design import DesignContent

POINTS = 201
# What the radio's side is made for; and how far the wires of a pair, as a line, may be off what would fit.
COAX_OHM, PAIR_FITS = 50.0, 1.5
# Builds behind the band in which a bench sweep of a right winding lies: nineteen in twenty.
FAN_BUILDS = 256
# Below this the winding stands well clear of its self-resonance; above it, no coil any more.
NOTED, WARNED = 0.3, 0.5


def grid_of(asked: WindingAsked) -> Real:
    """Frequencies over which a wound thing is looked at, evenly in log f."""
    return np.geomspace(asked.low_hz, max(asked.high_hz, asked.low_hz * 1.01), POINTS)


def goes_in(outer_m: float, thick_m: float, width_m: float, height_m: float, depth_m: float) -> bool:
    """Lying flat in a box, or with its axis along a tube."""
    return outer_m <= min(width_m, height_m) and thick_m <= depth_m


def boxes(outer_m: float, thick_m: float) -> list[BoxFit]:
    return [
        BoxFit(
            key=box.key,
            name=box.name,
            fits=goes_in(outer_m, thick_m, box.width_m, box.height_m, box.depth_m),
        )
        for box in data.boxes().values()
    ]


def ring_fit(laid: Winding, rings: int = 1) -> FitOut:
    outer = laid.ring.size.outer_m + 2 * (laid.tape_m + 2 * laid.covered_m)
    height = rings * (laid.ring.height_m + 2 * (laid.tape_m + 2 * laid.covered_m))
    return FitOut(
        most_turns=laid.ring.turns_that_fit(laid.covered_m, laid.tape_m),
        free_deg=math.degrees(laid.free_rad),
        outer_m=outer,
        height_m=height,
        boxes=boxes(outer, height),
    )


def ring_cuts(laid: Winding, names: tuple[str, ...]) -> list[CutOut]:
    """What to cut of every wire; those of a second ring are like those of the first."""
    cuts = laid.cuts()
    return [
        CutOut(
            wire=name,
            cut_m=cut.cut_m,
            winding_m=cut.winding_m,
            turn_m=cut.turn_m,
            tails_m=2 * laid.tail_m,
        )
        for name, cut in zip(names, cuts * (len(names) // len(cuts)), strict=True)
    ]


def pair_findings(pair_ohm: float, fits_ohm: float) -> list[Finding]:
    """Two wires as a line that does not fit where it runs."""
    if 1 / PAIR_FITS < pair_ohm / fits_ohm < PAIR_FITS:
        return []
    return [Finding(code="pair_impedance", values={"pair_ohm": pair_ohm, "fits_ohm": fits_ohm})]


def material_findings(ring: Ring, content: DesignContent) -> list[Finding]:
    """Where a prediction rests on data outside its range, or on none."""
    material, found = ring.material, []
    for target in content.core_targets():
        highest, lowest = material.highest_hz, material.lowest_hz
        if highest is not None and target.high_hz > highest:
            found.append(
                Finding(
                    code="material_above_range",
                    values={
                        "mix": material.mix,
                        "label": target.label,
                        "highest_hz": highest,
                        "note": material.note,
                    },
                )
            )
        if lowest is not None and target.low_hz < lowest:
            found.append(
                Finding(
                    code="material_below_range",
                    values={"mix": material.mix, "label": target.label, "lowest_hz": lowest, "note": material.note},
                )
            )
    if material.kind == "powder":
        known = bool(material.q_points)
        found.append(
            Finding(
                code="powder_loss_estimated" if known else "powder_loss_unknown",
                values={"mix": material.mix, "note": material.note},
            )
        )
    elif material.note and not found and _note_counts(material, content):
        found.append(Finding(code="material_note", values={"mix": material.mix, "note": material.note}))
    return found


# Air on a summer day, and how near the Curie temperature a core begins to let go.
AIR_C, CURIE_MARGIN_C = 30.0, 20.0


def curie(ring: Ring, heats: list[HeatOut]) -> list[Finding]:
    """Where a mode warms a core to where it loses its permeability."""
    curie = ring.material.curie_c
    hottest = max((r.rise_c for h in heats for r in h.rises), default=0.0)
    if curie is None or AIR_C + hottest < curie - CURIE_MARGIN_C:
        return []
    return [Finding(code="near_curie", values={"mix": ring.material.mix, "curie_c": curie, "rise_c": hottest})]


def _note_counts(material: Material, content: DesignContent) -> bool:
    """Whether the note of a ferrite speaks of the bands; one on the end of its curve counts above that alone."""
    if material.note_below_hz is None:
        return material.valid_to_hz is None
    return any(t.low_hz < material.note_below_hz for t in content.core_targets())


def own_resonance(inductance_h: float, capacitance_f: float) -> float:
    return 1 / (2 * math.pi * math.sqrt(inductance_h * max(capacitance_f, 1e-18)))


def near_resonance(key: str, content: DesignContent, own_hz: float) -> list[Finding]:
    ratio = max(t.high_hz for t in content.core_targets()) / own_hz
    if ratio <= NOTED:
        return []
    code = "near_self_resonance" if ratio > WARNED else "own_capacitance"
    return [Finding(code=code, values={"key": key, "ratio": ratio, "self_resonance_hz": own_hz})]


def seen(f: Real, z: Complex, loss_db: Real | None = None) -> SeenOut:
    with np.errstate(divide="ignore", invalid="ignore"):
        return SeenOut(
            frequency_hz=f.tolist(),
            resistance_ohm=numbers(z.real),
            reactance_ohm=numbers(z.imag),
            inductance_h=numbers(z.imag / (2 * np.pi * f)),
            q=numbers(z.imag / z.real),
            loss_db=numbers(np.zeros(f.shape) if loss_db is None else loss_db),
        )
