"""What must hold whatever the numbers: limits, symmetries, conserved quantities."""

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from yielding_coil.core.line import Cable, Line, OpenCoax
from yielding_coil.core.reflection import impedance_of, magnitude_at_swr, reflection_of, return_loss_db, swr_of
from yielding_coil.core.solenoid import Solenoid, turns_for
from yielding_coil.core.sweep import Sweep

ohms = st.floats(0.1, 1e4)
reactances = st.floats(-1e4, 1e4)
references = st.sampled_from([25.0, 50.0, 75.0, 300.0])


class TestReflection:
    @given(r=ohms, x=reactances, reference=references)
    def test_there_and_back(self, r, x, reference):
        back = complex(impedance_of(reflection_of(complex(r, x), reference), reference))

        assert abs(back - complex(r, x)) <= 1e-9 * (abs(complex(r, x)) + reference) ** 2 / reference

    @given(r=ohms, x=reactances)
    def test_swr_is_at_least_one_and_the_same_for_the_mirror_image(self, r, x):
        swr = float(swr_of(reflection_of(complex(r, x))))

        assert swr >= 1
        assert float(swr_of(reflection_of(complex(r, -x)))) == pytest.approx(swr)

    @given(r=ohms, reference=references)
    def test_swr_of_a_resistance_is_the_ratio(self, r, reference):
        assert float(swr_of(reflection_of(r, reference))) == pytest.approx(max(r / reference, reference / r))

    @given(swr=st.floats(1.001, 1000))
    def test_swr_return_loss_and_magnitude_say_the_same(self, swr):
        size = float(magnitude_at_swr(swr))

        assert float(swr_of(size)) == pytest.approx(swr)
        assert 10 ** (-float(return_loss_db(size)) / 20) == pytest.approx(size)

    def test_everything_back_is_endless(self):
        assert np.isinf(swr_of(np.array([1.0, 1.02, -1j]))).all()


class TestSweep:
    @given(
        f0=st.floats(3e6, 28e6),
        r=st.floats(15, 140),
        q=st.floats(3, 40),
        tight=st.floats(1.3, 2.0),
        more=st.floats(1.05, 2),
    )
    def test_a_wider_limit_is_never_narrower(self, f0, r, q, tight, more):
        f = np.linspace(0.6 * f0, 1.4 * f0, 400)
        sweep = Sweep(f, r * (1 + 1j * q * (f / f0 - f0 / f)))
        narrow, wide = sweep.bandwidth(tight), sweep.bandwidth(tight * more)
        assume(narrow is not None)

        assert wide.low_hz <= narrow.low_hz
        assert wide.high_hz >= narrow.high_hz

    @given(f0=st.floats(3e6, 28e6), r=st.floats(15, 140), q=st.floats(3, 40))
    def test_at_the_edges_the_swr_is_the_limit(self, f0, r, q):
        f = np.linspace(0.6 * f0, 1.4 * f0, 400)
        sweep = Sweep(f, r * (1 + 1j * q * (f / f0 - f0 / f)))
        band = sweep.bandwidth(3.0)
        assume(band is not None)

        for edge, leaves in ((band.low_hz, band.low_open), (band.high_hz, band.high_open)):
            if not leaves:
                seen = sweep.impedance_at(edge)
                assert float(swr_of(reflection_of(seen))) == pytest.approx(3.0, rel=1e-6)

    # Few samples: of many the noise is taken off first.
    @given(points=st.integers(2, 24), seed=st.integers(0, 1000))
    def test_resonances_are_where_the_reactance_is_nothing(self, points, seed):
        rng = np.random.default_rng(seed)
        sweep = Sweep(
            np.sort(rng.uniform(1e6, 30e6, points)), rng.uniform(20, 100, points) + 1j * rng.normal(0, 80, points)
        )
        found = sweep.resonances()
        signs = np.sign(sweep.impedance_ohm.imag)

        assert len(found) == int((signs[1:] != signs[:-1]).sum())
        for resonance in found:
            assert sweep.impedance_at(resonance.frequency_hz).imag == pytest.approx(0, abs=1e-3)

    @given(points=st.integers(2, 60), seed=st.integers(0, 1000))
    def test_the_best_match_is_no_worse_than_any_sample(self, points, seed):
        rng = np.random.default_rng(seed)
        sweep = Sweep(
            np.sort(rng.uniform(1e6, 30e6, points)), rng.uniform(5, 500, points) + 1j * rng.normal(0, 200, points)
        )

        assert sweep.best_match().swr <= sweep.swr().min() * (1 + 1e-12)


class TestLine:
    CABLE = Cable("50 ohm", 50.0, 0.66, 1.35, 0.025)

    @given(a=st.floats(0, 30), b=st.floats(0, 30), r=ohms, x=reactances, mhz=st.floats(1, 60))
    def test_two_lengths_are_one_of_their_sum(self, a, b, r, x, mhz):
        f, load = mhz * 1e6, complex(r, x)
        twice = Line(self.CABLE, a).input_impedance(f, Line(self.CABLE, b).input_impedance(f, load))
        once = Line(self.CABLE, a + b).input_impedance(f, load)

        assert abs(reflection_of(twice) - reflection_of(once)) < 1e-9

    @given(length=st.floats(0.01, 60), mhz=st.floats(1, 60))
    def test_closed_by_its_own_impedance_a_line_loses_its_matched_loss(self, length, mhz):
        line = Line(self.CABLE, length)
        _, own = self.CABLE.propagation(mhz * 1e6)

        assert float(line.loss_db(mhz * 1e6, complex(own))) == pytest.approx(
            float(line.matched_loss_db(mhz * 1e6)), rel=1e-9
        )

    @given(length=st.floats(0.01, 60), mhz=st.floats(1, 60), r=ohms, x=reactances)
    def test_no_load_makes_a_line_give_power(self, length, mhz, r, x):
        assert float(Line(self.CABLE, length).loss_db(mhz * 1e6, complex(r, x))) > 0

    @given(length=st.floats(0.005, 0.4), mhz=st.floats(1, 30))
    def test_open_coax_is_an_open_line_with_its_end(self, length, mhz):
        stub, f = OpenCoax(self.CABLE, length, end_f=0.0), mhz * 1e6
        open_line = complex(Line(self.CABLE, length).input_impedance(f, 1e15))

        assert complex(stub.impedance_ohm(f)) == pytest.approx(open_line, rel=1e-6)


class TestSolenoid:
    sizes = st.tuples(st.floats(10e-3, 120e-3), st.floats(0.5e-3, 3e-3), st.floats(1.02, 6), st.floats(2, 60))

    @given(sizes)
    def test_all_lengths_doubled_doubles_the_inductance(self, size):
        diameter, wire, spacing, turns = size
        small = Solenoid(diameter, wire * spacing, turns, wire)
        large = Solenoid(2 * diameter, 2 * wire * spacing, turns, 2 * wire)

        assert large.inductance_h == pytest.approx(2 * small.inductance_h)
        assert large.self_capacitance_f == pytest.approx(2 * small.self_capacitance_f)

    @given(sizes)
    def test_one_turn_more_is_more_inductance_and_more_wire(self, size):
        diameter, wire, spacing, turns = size
        fewer = Solenoid(diameter, wire * spacing, turns, wire)
        more = Solenoid(diameter, wire * spacing, turns + 1, wire)

        assert more.crowded_inductance_h > fewer.crowded_inductance_h
        assert more.wire_length_m > fewer.wire_length_m
        assert more.self_resonance_hz < fewer.self_resonance_hz

    @given(sizes, st.floats(1.5, 40))
    def test_the_turns_for_an_inductance_read_it(self, size, turns):
        diameter, wire, spacing, _ = size
        wanted = Solenoid(diameter, wire * spacing, turns, wire).crowded_inductance_h

        assert turns_for(wanted, diameter, wire * spacing, wire, step=0) == pytest.approx(turns, rel=1e-6)
        halves = turns_for(wanted, diameter, wire * spacing, wire)
        assert abs(halves - turns) <= 0.5
        assert halves * 2 == int(halves * 2)
