"""What is said of wound things: each rule at its limit."""

import pytest

from yielding_coil import data
from yielding_coil.core.ring import Ring
from yielding_coil.core.target import Target
from yielding_coil.core.winding import BandLosses, TemperatureRise
from yielding_coil.core.winding.choke import Rated
from yielding_coil.core.winding.findings import (
    coupler_findings,
    curie_findings,
    few_turns_findings,
    heat_findings,
    hottest_c,
    material_findings,
    pair_findings,
)
from yielding_coil.core.winding.leg_trap import trap_findings
from yielding_coil.core.winding.line_choke import bend_findings, rating_findings
from yielding_coil.core.winding.report import CouplerBand, CouplerReport

RING = Ring(data.ring_material("43"), data.ring_size("FT240"))


def losses(rise_c=10.0, **more):
    rise = TemperatureRise("speech", 0.3, rise_c, 100.0, 50.0, "cool")
    return [BandLosses("30 m", 10.1e6, 1.0, 0.1, 0.1, 3.0, (rise,), **more)]


def codes(found):
    return [f.code for f in found]


@pytest.mark.parametrize(
    ("volts", "power_w", "expected"),
    [(49.0, 100.0, []), (51.0, 100.0, ["winding_voltage"]), (51.0, 0.0, ["no_power"]), (None, 100.0, [])],
)
def test_volts_are_told_where_they_burn_and_no_power_is_told_instead(volts, power_w, expected):
    assert codes(heat_findings(losses(voltage_v=volts), power_w)) == expected


def test_flux_above_its_guide_and_heat_where_the_law_is_a_guess():
    over = losses(rise_c=101.0, flux_t=5e-3, flux_guide_t=4e-3)

    assert codes(heat_findings(over, 100.0)) == ["flux_above_guide", "heat_extrapolated"]
    assert codes(heat_findings(losses(flux_t=3e-3, flux_guide_t=4e-3), 100.0)) == []
    assert hottest_c(over) == 101.0
    assert hottest_c([]) == 0.0


@pytest.mark.parametrize(("rise_c", "near"), [(79.0, False), (81.0, True)])
def test_a_core_lets_go_twenty_degrees_below_its_curie_temperature_on_a_summer_day(rise_c, near):
    """Mix 43, 130 °C (from memory): 130 − 20 − 30 in the air leaves 80 °C of rise."""
    assert codes(curie_findings(RING, losses(rise_c))) == (["near_curie"] if near else [])


def test_bands_outside_what_is_known_of_a_material():
    ferrite = Ring(data.ring_material("77"), data.ring_size("FT240"))
    lowest, highest = ferrite.material.lowest_hz, ferrite.material.highest_hz
    below, above = Target("low", lowest / 2, lowest, 2.0), Target("high", highest, 1.1 * highest, 2.0)
    inside = Target("in", 1.1 * lowest, 0.9 * highest, 2.0)

    assert codes(material_findings(ferrite, [below, above])) == ["material_below_range", "material_above_range"]
    assert codes(material_findings(ferrite, [inside])) in ([], ["material_note"])
    mixes = data.ring_materials().values()
    known = next(m for m in mixes if m.kind == "powder" and m.q_points)
    unknown = next(m for m in mixes if m.kind == "powder" and not m.q_points)
    for material, code in ((known, "powder_loss_estimated"), (unknown, "powder_loss_unknown")):
        assert codes(material_findings(Ring(material, data.ring_size("T68")), [inside])) == [code]


@pytest.mark.parametrize(("ohm", "told"), [(34.0, False), (33.0, True), (74.0, False), (75.0, True)])
def test_a_pair_is_told_where_it_is_half_as_much_again_off(ohm, told):
    assert bool(pair_findings(ohm, 50.0)) is told


def test_too_few_turns_leave_less_than_twice_the_coax_across_the_input():
    assert codes(few_turns_findings("unun", 99.0)) == ["few_turns"]
    assert few_turns_findings("unun", 100.0) == []


def test_a_variable_capacitor_at_its_stop_and_one_that_sparks():
    def band(within, volts):
        return CouplerBand("60 m", 5.3e6, 250e-12, within, 1.1, 1.2, 50.0, 0.0, 0.0, 0.0, volts)

    report = CouplerReport(5e6, 30e6, (band(True, 200.0), band(False, 600.0)))
    stop, sparks = coupler_findings(report, 300.0)

    assert (stop.code, stop.values["label"]) == ("capacitor_at_its_stop", "60 m")
    # Half the voltage is a quarter of the power.
    assert (sparks.code, sparks.values["share"]) == ("capacitor_voltage", pytest.approx(0.25))
    assert codes(coupler_findings(report, 700.0)) == ["capacitor_at_its_stop"]


@pytest.mark.parametrize(
    ("rating", "code"), [("too little", "choke_too_little"), ("reactive", "choke_reactive"), ("enough", None)]
)
def test_a_band_on_which_a_choke_is_none(rating, code):
    found = rating_findings(Rated("30 m", 10.1e6, 100.0, 900.0, rating, None))

    assert codes(found) == ([] if code is None else [code])


def test_coax_bends_to_five_of_its_diameters():
    """Common practice."""
    assert codes(bend_findings(0.024, 0.005)) == ["tight_bend"]
    assert bend_findings(0.025, 0.005) == []


def test_half_a_traps_volts_lie_across_its_coax():
    """Shield and centre in series, each with half of the turns' voltage (any text on coupled circuits)."""
    told = {f.code: f.values for f in trap_findings(500.0, 100.0, of_coax=True)}

    assert told["coax_voltage"]["voltage_v"] == 250.0
    assert codes(trap_findings(0.0, 0.0, of_coax=False)) == ["no_power", "line_estimate"]
