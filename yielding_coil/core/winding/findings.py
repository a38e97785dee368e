"""What to know of a wound thing: its heat and flux, its material, its own resonance, its wires as a line."""

from collections.abc import Sequence

from yielding_coil.core.finding import Finding, Values, WindingCode
from yielding_coil.core.ring import Material, Ring
from yielding_coil.core.target import Target
from yielding_coil.core.winding import heat
from yielding_coil.core.winding.losses import BandLosses
from yielding_coil.core.winding.report import CouplerReport

Findings = list[Finding[WindingCode]]

# Below this at the winding nobody is burnt (common practice).
VOLTAGE_TOLD_V = 50.0
# Air on a summer day, and how near the Curie temperature a core begins to let go.
AIR_C, CURIE_MARGIN_C = 30.0, 20.0
# What the radio's side is made for; and how far the wires of a pair, as a line, may be off what would fit.
COAX_OHM, PAIR_FITS = 50.0, 1.5
# Less than this across the input on the lowest band is a primary of too few turns: twice 50 Ω (common practice).
FEW_TURNS_OHM = 100.0
# Wires show at most some 5 kΩ at their end (common practice): a hundred to one.
MOST_RATIO = 144.0


def hottest_c(losses: Sequence[BandLosses]) -> float:
    """The largest rise on any target in any mode."""
    return max((r.rise_c for band in losses for r in band.rises), default=0.0)


def heat_findings(losses: Sequence[BandLosses], power_w: float) -> Findings:
    """Voltage, flux and heat; without a power that there is none."""
    found: Findings = []
    volts = max((b.voltage_v or 0.0 for b in losses), default=0.0)
    if power_w == 0:
        found.append(Finding("no_power"))
    elif volts > VOLTAGE_TOLD_V:
        found.append(Finding("winding_voltage", {"voltage_v": volts, "power_w": power_w}))
    for band in losses:
        if band.flux_t is not None and band.flux_guide_t is not None and band.flux_t > band.flux_guide_t:
            values: Values = {"label": band.label, "flux_t": band.flux_t, "guide_t": band.flux_guide_t}
            found.append(Finding("flux_above_guide", values))
    hottest = hottest_c(losses)
    if hottest > heat.EXTRAPOLATED_C:
        found.append(Finding("heat_extrapolated", {"rise_c": hottest}))
    return found


def curie_findings(ring: Ring, losses: Sequence[BandLosses]) -> Findings:
    """Where a mode warms a core to where it loses its permeability."""
    curie, hottest = ring.material.curie_c, hottest_c(losses)
    if curie is None or AIR_C + hottest < curie - CURIE_MARGIN_C:
        return []
    return [Finding("near_curie", {"mix": ring.material.mix, "curie_c": curie, "rise_c": hottest})]


def material_findings(ring: Ring, targets: Sequence[Target]) -> Findings:
    """Where a prediction rests on data outside its range, or on none."""
    material = ring.material
    mix, note = material.mix, material.note
    found: Findings = []
    for target in targets:
        highest, lowest = material.highest_hz, material.lowest_hz
        if highest is not None and target.high_hz > highest:
            beyond: Values = {"mix": mix, "label": target.label, "highest_hz": highest, "note": note}
            found.append(Finding("material_above_range", beyond))
        if lowest is not None and target.low_hz < lowest:
            below: Values = {"mix": mix, "label": target.label, "lowest_hz": lowest, "note": note}
            found.append(Finding("material_below_range", below))
    if material.kind == "powder":
        known = bool(material.q_points)
        found.append(
            Finding("powder_loss_estimated" if known else "powder_loss_unknown", {"mix": mix, "note": note})
        )
    elif note and not found and _note_counts(material, targets):
        found.append(Finding("material_note", {"mix": mix, "note": note}))
    return found


def _note_counts(material: Material, targets: Sequence[Target]) -> bool:
    """Whether the note of a ferrite speaks of the bands; one on the end of its curve counts above that alone."""
    if material.note_below_hz is None:
        return material.valid_to_hz is None
    return any(t.low_hz < material.note_below_hz for t in targets)


def pair_findings(pair_ohm: float, fits_ohm: float) -> Findings:
    """Two wires as a line that does not fit where it runs."""
    if 1 / PAIR_FITS < pair_ohm / fits_ohm < PAIR_FITS:
        return []
    return [Finding("pair_impedance", {"pair_ohm": pair_ohm, "fits_ohm": fits_ohm})]


def few_turns_findings(key: str, magnetising_ohm: float) -> Findings:
    """A core that puts too little across the input.

    Args:
        magnetising_ohm: the least |Z| of the primary's turns on any target.
    """
    if magnetising_ohm >= FEW_TURNS_OHM:
        return []
    return [Finding("few_turns", {"key": key, "magnetising_ohm": magnetising_ohm})]


def ratio_findings(key: str, turns_ratio: float) -> Findings:
    """A ratio of turns that nobody needs: most likely that of the impedances was put into the turns.

    Args:
        turns_ratio: of the secondary's turns to the primary's.
    """
    impedance = turns_ratio**2
    if impedance <= MOST_RATIO:
        return []
    return [
        Finding("ratio_of_turns", {"key": key, "impedance_ratio": impedance, "meant_turns_ratio": turns_ratio**0.5})
    ]


def coupler_findings(coupler: CouplerReport, stands_v: float) -> Findings:
    """Bands that a variable capacitor does not reach, and volts that it does not stand.

    Args:
        stands_v: peak voltage that the capacitor stands.
    """
    found: Findings = [
        Finding("capacitor_at_its_stop", {"label": s.label, "capacitance_f": s.capacitance_f})
        for s in coupler.settings
        if not s.within
    ]
    most = max((s.voltage_v for s in coupler.settings), default=0.0)
    if most > stands_v:
        values = {"voltage_v": most, "stands_v": stands_v, "share": (stands_v / most) ** 2}
        found.append(Finding("capacitor_voltage", values))
    return found
