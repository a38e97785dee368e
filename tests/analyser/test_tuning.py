"""The tuner of the simulated bench: its dials err, its shafts lag, and every round can be matched."""

import json

import numpy as np
import pytest

from yielding_coil.analyser.bench import THINGS
from yielding_coil.analyser.practice import TUNER_ROUNDS, tuner_text
from yielding_coil.analyser.simulator import Simulator
from yielding_coil.analyser.tuning import SLACK, TunerBench
from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.tuner import BYPASSED, Seen, Tuner, TunerSetting, advise_turn, least_loss

START = TunerSetting("tee", 100e-12, 1e-6, 100e-12)


@pytest.mark.parametrize("row", TUNER_ROUNDS, ids=lambda r: f"{r.antenna} {r.band}")
def test_every_round_can_be_matched(row):
    hz = (row.low_hz + row.high_hz) / 2

    assert least_loss(Tuner(), hz, complex(THINGS[row.antenna].seen(np.array([hz]))[0]))[0] is not None


@pytest.mark.parametrize(("level", "most"), [("easy", 0.05), ("hard", 0.2)])
def test_its_dials_err_by_what_the_level_says_and_always_the_same(level, most):
    bench = TunerBench(3)
    bench.set(tuner_text(2, level, Tuner(), START, in_line=True))
    once = np.array(bench.thing.true.values) / START.values - 1
    other = TunerSetting("tee", 150e-12, 2e-6, 50e-12)
    bench.set(tuner_text(2, level, Tuner(), other, in_line=True))
    again = np.array(bench.thing.true.values) / other.values - 1

    assert np.abs(once).max() <= most
    assert np.abs(once).max() > most / 20
    assert again == pytest.approx(once, abs=2 * SLACK)


def test_a_shaft_lags_when_it_is_turned_back():
    bench = TunerBench(3)

    def shaft(coil):
        bench.set(tuner_text(0, "easy", Tuner(), TunerSetting("tee", 100e-12, coil, 100e-12), in_line=True))
        return bench.thing.true.coil_h

    up = [shaft(c) for c in (1.0e-6, 1.5e-6, 2.0e-6)]
    back = shaft(1.995e-6)
    assert back == pytest.approx(up[-1])
    assert shaft(1.5e-6) < up[-1]
    assert shaft(1.5e-6) == pytest.approx(up[1] * (1 + SLACK) ** 2, rel=1e-6)


@pytest.mark.deep
def test_nobody_is_sent_round_a_flat_bottom():
    """Near the band's compromise little changes, and less than its slack moves no shaft: it ends, and is good."""
    row = TUNER_ROUNDS[7]
    f = np.linspace(row.low_hz, row.high_hz, 41)
    for noise in range(6):
        simulator = Simulator(1, clock=lambda: 0.0, wait=lambda _: None)
        rng = np.random.default_rng([noise, 99])
        dials, seen, said = TunerSetting("tee", 80e-12, 2e-6, 80e-12), [], None
        while said is None or said.control:
            if said is not None:
                values = dict(zip(("output", "coil", "input"), dials.values, strict=True)) | {said.control: said.to}
                dials = TunerSetting("tee", *values.values())
            simulator.answer("BENC:TUNE " + tuner_text(7, "easy", Tuner(), dials, in_line=True))
            scatter = rng.normal(size=(2, f.size)) * 1e-3
            seen.append(Seen(dials, f, simulator.true_reflection(f) + scatter[0] + 1j * scatter[1]))
            said = advise_turn(Tuner(), seen, "band")
            assert len(seen) <= 12
        assert said.kind == "compromise"
        assert said.worst_swr <= 1.12 * said.best_swr


def test_out_of_line_it_is_the_antenna_itself():
    simulator = Simulator(4, clock=lambda: 0.0, wait=lambda _: None)
    simulator.answer("BENC:TUNE " + tuner_text(1, "easy", Tuner(), START, in_line=False))
    f = np.linspace(10.1e6, 10.15e6, 5)

    assert simulator.answer("SYST:ERR?").startswith(b"0")
    assert simulator.on == "tuner"
    bare = reflection_of(THINGS["orchard"].seen(f))
    assert simulator.true_reflection(f) == pytest.approx(bare, abs=0.02)
    simulator.answer("BENC:TUNE " + tuner_text(1, "easy", Tuner(), START, in_line=True))
    assert np.abs(simulator.true_reflection(f) - bare).max() > 0.05


@pytest.mark.parametrize(
    "change",
    [
        {"antenna": "no-such"},
        {"dials": {"side": "tee", "output_f": 1e-9, "coil_h": 1e-6, "input_f": 1e-10}},
        {"dials": {"side": "radio", "output_f": None, "coil_h": 1e-6, "input_f": 1e-10}},
        {"tuner": {"coil_low_h": 1.0, "coil_high_h": 1e-6}},
        {"level": "impossible"},
    ],
)
def test_what_is_no_tuner_is_complained_of(change):
    simulator = Simulator(4, clock=lambda: 0.0, wait=lambda _: None)
    spec = {**json.loads(tuner_text(0, "easy", Tuner(), START, in_line=True)), **change}
    simulator.answer("BENC:TUNE " + json.dumps(spec))

    assert b"-222" in simulator.answer("SYST:ERR?")
    assert simulator.on != "tuner"


def test_switched_out_by_its_dials_is_out_of_line():
    bench = TunerBench(1)
    bench.set(tuner_text(0, "easy", Tuner(), BYPASSED, in_line=True))

    assert bench.thing.true is BYPASSED
