"""Where the watts go: every split adds up to what the cascade loses, and warms as the law has it."""

import pytest
from client_helpers import unun
from made import design_of

from yielding_coil import data
from yielding_coil.core.winding import ThermalBody, band_losses
from yielding_coil.core.winding.losses import heat_verdict, temperature_rises

RING_COIL = {
    "kind": "ring_coil",
    "key": "thing",
    "place": "series",
    "turns": 12,
    "core": {"mix": "43", "size": "FT240"},
    "wire": "cu-1",
}
AIR_COIL = {
    "kind": "coil",
    "key": "thing",
    "place": "series",
    "inductance_h": 1.5e-6,
    "former_m": 0.032,
    "wire": "cu-1",
}


@pytest.mark.parametrize("thing", [RING_COIL, AIR_COIL, unun(key="thing")["elements"][0]], ids=lambda t: t["kind"])
def test_core_and_copper_are_what_the_cascade_loses_in_it(thing):
    content = {**unun(450.0), "elements": [{"kind": "line", "key": "line", "cable": "foam-6", "length_m": 5.0}]}
    design = design_of({**content, "elements": [thing, *content["elements"]]})
    system, wound = design.system(), design.wound("thing")

    for band in band_losses(wound, system, design.targets, 80.0, data.MODE_DUTY, design.center_hz):
        lost = float(system.stations(band.at_hz, 80.0)[1].loss_w)
        assert band.core_w + band.copper_w == pytest.approx(lost, rel=1e-3)
        assert (band.flux_t is None) == (thing["kind"] == "coil")


def test_heat_follows_the_law_of_the_trade_by_mode():
    """ΔT = (mW/cm²)^0.833 (common practice): 10 W on 100 cm² is 46.3 °C."""
    body = ThermalBody(100e-4, 50.0)
    told = {r.mode: r for r in temperature_rises(10.0, 100.0, body, {"all": 1.0, "half": 0.5})}

    assert told["all"].rise_c == pytest.approx(46.3, abs=0.05)
    assert told["half"].rise_c == pytest.approx(told["all"].rise_c * 0.5**0.833)
    assert told["all"].settles_s == pytest.approx(50.0 * told["all"].rise_c / 10.0)


def test_nothing_warms_without_a_finite_loss():
    (none,) = temperature_rises(float("nan"), 0.0, ThermalBody(1e-2, 50.0), {"speech": 0.3})

    assert (none.rise_c, none.settles_s, none.highest_power_w, none.verdict) == (0.0, None, None, "cool")


@pytest.mark.parametrize(("rise_c", "verdict"), [(40, "cool"), (40.1, "warm"), (70, "warm"), (70.1, "hot")])
def test_a_hand_feels_the_difference(rise_c, verdict):
    assert heat_verdict(rise_c) == verdict
