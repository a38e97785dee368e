"""The settings to choose from: ranked, and what each is best at."""

import numpy as np
import pytest

from yielding_coil.core.tuner import Tuner, choices_of, tee_of

F = np.linspace(14.0e6, 14.35e6, 9)


def test_the_rule_of_most_capacitance_and_where_it_fails():
    """Common practice says that it loses least; an antenna that is itself inductive enough is the exception."""
    usual = choices_of(Tuner(), F, np.full(9, 25 + 0j), 100.0)
    exception = choices_of(Tuner(), F, np.full(9, 100 + 800j), 100.0)

    assert usual.capacitance_rule is True
    assert exception.capacitance_rule is False


def test_each_is_best_at_what_is_said():
    found = choices_of(Tuner(), F, np.full(9, 25 - 60j), 100.0)
    of = {merit: c for c in found.choices for merit in c.merits}
    matched = [c for c in found.choices if c.middle_swr < 1.0001]

    assert of["least loss"].loss_w == pytest.approx(min(c.loss_w for c in matched))
    assert of["least volts"].peak_voltage_v == pytest.approx(min(c.peak_voltage_v for c in matched))
    assert of["best over the band"].worst_swr == pytest.approx(min(c.worst_swr for c in found.choices))
    assert [c.loss_w for c in found.choices] == sorted(c.loss_w for c in found.choices)
    assert len(found.choices) >= 6


def test_loss_and_volts_are_those_of_the_parts():
    """Loss by the ratio of powers at both ends; volts by the current that the power drives through each part."""
    load = np.full(9, 40 - 200j)
    for choice in choices_of(Tuner(), F, load, 50.0).choices:
        tee = tee_of(Tuner(), choice.setting, F[4])
        z = complex(tee.near_ohm(load[4]))
        amperes = np.sqrt(2 * 50 / z.real)
        current = amperes / abs(1 + (load[4] + tee.upper_ohm) * tee.across_s)
        assert choice.loss_w == pytest.approx(50 - current**2 * 40 / 2, rel=1e-9)
        volts = [current * abs(tee.upper_ohm), current * abs(load[4] + tee.upper_ohm), amperes * abs(tee.lower_ohm)]
        assert choice.peak_voltage_v == pytest.approx(max(volts), rel=1e-9)


def test_an_ell_has_no_rule_to_break():
    found = choices_of(Tuner("ell", input_high_f=1500e-12), F, np.full(9, 300 + 0j), 100.0)

    assert found.capacitance_rule is None
    assert found.reached
