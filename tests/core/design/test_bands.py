"""Watts band by band: ledgers that sum, tuners at either end, other cables, what the mode allows."""

import math

import numpy as np
import pytest
from client_helpers import CHOKE
from client_helpers import unun as a_design_with_an_unun
from hypothesis import given, settings
from hypothesis import strategies as st
from made import design_of

from yielding_coil import data
from yielding_coil.core.design import RadioTuner, evaluate, predict_bands
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Cable, Line, through_line
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
from yielding_coil.core.system import Element, System
from yielding_coil.core.tuner import BYPASSED, Tuner, TunerNetwork, least_loss, nearest

CABLES = [row for row in data.cables().values() if row.coax]
TWENTY = {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 2.0}
FIFTEEN = {"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}
LINE = {"kind": "line", "key": "line", "cable": "pe-5", "length_m": 30.0}
TUNER = {"kind": "tuner", "key": "tuner"}
UNUN = a_design_with_an_unun()["elements"][0]
COIL = {
    "kind": "coil",
    "key": "coil",
    "place": "series",
    "inductance_h": 1.2e-6,
    "former_m": 0.032,
    "wire": "cu-1.6",
}


def content(elements, ohm=100.0, reactance=0.0, targets=(TWENTY,)):
    antenna = {"kind": "resistor", "resistance_ohm": ohm, "reactance_ohm": reactance}
    return {"version": 1, "antenna": antenna, "targets": list(targets), "elements": list(elements)}


def bands_of(elements, power_w=100.0, **more):
    return predict_bands(design_of(content(elements, **more)), power_w, data.MODE_DUTY, CABLES)


PARTS = st.one_of(
    st.builds(lambda h, q: ("series", Inductor(h, q)), st.floats(0.1e-6, 20e-6), st.floats(20, 500)),
    st.builds(lambda c, q: ("shunt", Capacitor(c, q)), st.floats(2e-12, 900e-12), st.floats(50, 3000)),
    st.builds(lambda c, q: ("series", Capacitor(c, q)), st.floats(10e-12, 2e-9), st.floats(50, 3000)),
    st.builds(
        lambda z, k, m: ("through", Line(Cable("c", z, 0.66, k, 0.01), m)),
        st.floats(25, 600),
        st.floats(0.05, 3),
        st.floats(0.1, 60),
    ),
)


@given(
    st.lists(PARTS, max_size=4),
    st.builds(complex, st.floats(2, 3000), st.floats(-900, 900)),
    st.sampled_from(["tee", "ell"]),
    st.floats(1.8e6, 29e6),
)
@settings(max_examples=150, deadline=None)
@pytest.mark.deep
def test_every_ledger_sums(parts, load, kind, hz):
    """Random systems with a tuner at the radio: what goes in is what arrives and what stays, to 1e-9 of it."""
    elements = [Element(f"e{k}", place, part) for k, (place, part) in enumerate(parts)]
    above = System(FixedLoad(load), elements)
    tuner = Tuner(kind)
    (found,) = least_loss(tuner, hz, complex(above.impedance(np.array([hz]))[0]))
    setting = found or nearest(tuner, hz, complex(above.impedance(np.array([hz]))[0]))[0]
    whole = System(
        FixedLoad(load), [*elements, Element("tuner", "through", TunerNetwork(tuner, (hz,), (setting,)))]
    )
    stations = whole.stations(hz, 100.0)

    assert sum(float(s.loss_w) for s in stations) + float(stations[0].power_w) == pytest.approx(100, abs=1e-7)
    assert float(whole.efficiency(hz)) == pytest.approx(float(stations[0].power_w) / 100, rel=1e-9)
    if found:
        assert float(stations[-1].swr) == pytest.approx(1.0, abs=1e-6)


@pytest.mark.parametrize("elements", [[], [LINE], [COIL, LINE, TUNER], [UNUN, LINE, TUNER], [UNUN, TUNER]])
def test_a_bands_ledger_sums_to_the_power_put_in(elements):
    found = bands_of(elements, ohm=180, reactance=-60, targets=(TWENTY, FIFTEEN), power_w=37.0)

    for band in found.bands:
        assert sum(loss.watts for loss in band.losses) + band.up_w == pytest.approx(37.0, rel=1e-9)
        assert band.up_low_w <= band.up_w <= band.up_high_w


def test_what_the_line_takes_is_the_handbooks_sum():
    """100 Ω through 30 m of 5 mm coax at 14.175 MHz: matched and extra as by SWR and dB alone."""
    band = bands_of([LINE]).bands[0]
    (line,) = band.losses
    sums = through_line(2.0, "load", float(-10 * math.log10(1 - line.matched_w / 100)))

    assert band.swr_line == pytest.approx(2.0, abs=0.01)
    assert band.swr_radio == pytest.approx(sums.swr_radio, rel=0.02)
    assert line.watts == pytest.approx(sums.line_w, abs=0.6)
    assert line.watts - line.matched_w == pytest.approx(sums.extra_w, abs=0.6)


def test_a_tuner_at_the_radio_leaves_the_line_as_it_is():
    """Common practice: it protects the radio and lets power in; SWR on the line is set by the load alone."""
    without, with_it = bands_of([LINE]).bands[0], bands_of([LINE, TUNER]).bands[0]

    assert with_it.swr_line == pytest.approx(without.swr_line, rel=1e-12)
    assert with_it.swr_meter == pytest.approx(without.swr_radio, rel=1e-12)
    assert with_it.swr_radio == pytest.approx(1.0, abs=1e-9)
    assert without.setting is None
    assert with_it.setting.side == "tee"


def test_its_settings_are_its_own_on_every_band():
    design = design_of(content([LINE, TUNER], ohm=200, targets=(TWENTY, FIFTEEN)))
    found = evaluate(design)
    middles = found.judged[-1].swr.reshape(2, -1)[:, 20]

    assert middles == pytest.approx([1.0, 1.0], abs=1e-9)
    assert found.box == 0
    settings_ = found.system.elements[-1].part.settings
    assert settings_[0].values != settings_[1].values


def test_a_conjugate_at_every_station_where_nothing_is_lost():
    """The conjugate match theorem (Everitt, Communication Engineering): exact only without loss.

    Looking down from the antenna into a lossless line and tuner, 50 Ω at the radio, one sees its conjugate.
    """
    lossless = Line(Cable("l", 450.0, 0.91, 0.0, 0.0), 18.0)
    load = 120 - 340j
    above = System(FixedLoad(load), [Element("line", "through", lossless)])
    tuner = Tuner(coil_q=1e9, capacitor_q=1e9)
    (setting,) = least_loss(tuner, 14.2e6, complex(above.impedance(np.array([14.2e6]))[0]))
    network = TunerNetwork(tuner, (14.2e6,), (setting,))
    system = System(above.antenna, [*above.elements, Element("tuner", "through", network)])
    down = system.looking_down(np.array([14.2e6]))

    assert complex(down[0][0]) == pytest.approx(load.conjugate(), rel=1e-5)
    lossy = System(above.antenna, [Element("line", "through", Line(Cable("l", 50.0, 0.66, 1.35, 0.025), 30.0))])
    z = complex(lossy.impedance(np.array([14.2e6]))[0])
    (setting,) = least_loss(Tuner(), 14.2e6, z)
    element = Element("tuner", "through", TunerNetwork(Tuner(), (14.2e6,), (setting,)))
    seen = complex(System(lossy.antenna, [*lossy.elements, element]).looking_down(np.array([14.2e6]))[0][0])
    assert abs(seen - load.conjugate()) > 50


def test_better_coax_reads_worse_and_more_goes_up():
    """100 Ω behind 30 m: of two cables the one that loses less reads higher, and more arrives."""
    found = bands_of([LINE])
    thin = next(c for c in found.cables if c.here)
    thick = next(c for c in found.cables if c.cable == "foam-10")
    own = found.lengths_m.index(30.0)

    assert thick.meter_swr[own, 0] > thin.meter_swr[own, 0] + 0.1
    assert thick.up_w[own, 0] > thin.up_w[own, 0] + 9
    assert thin.up_w[own, 0] == pytest.approx(found.bands[0].up_w, rel=1e-9)
    assert found.better[0].key == "foam-10"
    assert found.better[0].least_w == pytest.approx(thick.up_w[own, 0], rel=1e-9)
    # Longer is never better here, and every cable is given at every length.
    assert (np.diff(thin.up_w[:, 0]) < 0).all()


def test_a_tuner_at_the_antenna_takes_the_swr_off_the_line():
    found = bands_of([LINE, TUNER], ohm=400)
    nowhere, radio, antenna = found.tuners

    assert [t.here for t in found.tuners] == [False, True, False]
    assert not found.tuner_assumed
    assert antenna.line_swr[0] == pytest.approx(1.0, abs=0.02)
    assert radio.line_swr[0] == pytest.approx(8.0, rel=0.02)
    assert radio.radio_swr[0] == pytest.approx(1.0, abs=1e-9)
    assert nowhere.radio_swr[0] > 1.5
    assert antenna.up_w[0] > radio.up_w[0] + 10
    assert radio.up_w[0] == pytest.approx(found.bands[0].up_w, rel=1e-6)


def test_without_a_tuner_a_usual_one_is_compared():
    assert bands_of([LINE]).tuner_assumed


def test_what_the_mode_allows_is_decided_by_volts_or_heat():
    volts = bands_of([LINE, {**TUNER, "stands_v": 100.0}], ohm=400).allowed
    heat = bands_of([UNUN, LINE], ohm=2450).allowed
    none = bands_of([LINE]).allowed

    assert {a.by for a in volts} == {"voltage"}
    peak = bands_of([LINE, {**TUNER, "stands_v": 100.0}], ohm=400).bands[0].peak_voltage_v
    assert volts[0].power_w == pytest.approx(100 * (100 / peak) ** 2, rel=0.3)
    assert {(a.by, a.key) for a in heat} == {("heat", "unun")}
    by_mode = {a.mode: a.power_w for a in heat}
    assert by_mode["speech"] > by_mode["telegraphy"] > by_mode["digital"]
    assert [a.power_w for a in none] == [None] * 3


def test_one_ring_more_is_among_what_helps():
    found = bands_of([UNUN, LINE], ohm=2450, targets=({**TWENTY, "low_hz": 3.5e6, "high_hz": 3.8e6},))

    assert any(b.by == "stack" and b.key == "unun" for b in found.better)


def test_a_choke_is_said_not_summed():
    with_choke = predict_bands(design_of({**content([LINE]), "beside": [CHOKE]}), 100, data.MODE_DUTY, CABLES)

    assert with_choke.choke
    assert [loss.kind for loss in with_choke.bands[0].losses] == ["line"]


def test_a_tuner_stands_next_to_the_radio():
    with pytest.raises(OutOfDomainError, match="a tuner next to the radio"):
        bands_of([TUNER, LINE])


def test_a_load_that_takes_no_power_leaves_the_tuner_out():
    design = design_of(content([LINE, TUNER], ohm=0.0, reactance=30.0))
    (setting,) = RadioTuner(key="t", tuner=Tuner()).tuned(design.antenna, design.targets).settings

    assert setting is BYPASSED
