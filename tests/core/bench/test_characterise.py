import numpy as np
import pytest

from yielding_coil import data
from yielding_coil.core.bench import NotThisError, TurnsSweep, characterise
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.sweep import Sweep

TABLE = list(data.ring_materials().values())
SIZE = data.ring_size("FT240")
F = np.geomspace(0.1e6, 50e6, 121)
WIDE = np.linspace(1e6, 60e6, 201)


def turns(mix: str, count: int, f: np.ndarray = F) -> Sweep:
    """Without any stray: what the formula of IEC 60205 gives for the points of the table."""
    at, real, imaginary = np.array(data.ring_material(mix).points).T
    mu = np.interp(np.log(f), np.log(at), real) - 1j * np.interp(np.log(f), np.log(at), imaginary)
    return Sweep(f, 2j * np.pi * f * (4e-7 * np.pi) * mu * count**2 * SIZE.area_m2 / SIZE.path_m)


def coil(henry: float, q: float, farad: float, f: np.ndarray = WIDE) -> np.ndarray:
    arm = 2 * np.pi * f * henry * (1j + np.sqrt(14e6 / f) / q)
    return arm / (1 + 2j * np.pi * f * farad * arm)


class TestRing:
    def test_two_windings_tell_the_capacitance_from_the_core(self):
        def across(sweep, farad):
            return Sweep(F, 1 / (1 / sweep.impedance_ohm + 2j * np.pi * F * farad))

        found = characterise.ring(
            [TurnsSweep(11, across(turns("43", 11), 3e-12)), TurnsSweep(3, across(turns("43", 3), 1e-12))],
            SIZE,
            TABLE,
        )

        assert found.stray_f[0][0] == pytest.approx(3e-12, abs=3 * found.stray_f[0][1])
        assert found.stray_f[0][1] < 0.3e-12
        assert found.likely[0].mix == "43"
        assert found.likely[0].share > 0.9

    def test_a_sweep_of_few_turns_reaches_higher(self):
        few, many = (characterise.ring([TurnsSweep(n, turns("43", n))], SIZE, TABLE) for n in (3, 15))

        assert few.frequency_hz[-1] > 2 * many.frequency_hz[-1]

    def test_a_better_calibration_narrows_it(self):
        good, poor = (
            characterise.ring([TurnsSweep(5, turns("61", 5))], SIZE, TABLE, residual_db=db) for db in (60, 40)
        )
        at = np.searchsorted(good.frequency_hz, 5e6)
        same = np.searchsorted(poor.frequency_hz, 5e6)

        assert good.real_error[at] < poor.real_error[same]

    def test_turns_miscounted_are_contradicted_by_the_other_winding(self):
        """The outermost turn counted in or out: 11 said, 12 wound."""
        with pytest.raises(NotThisError, match="contradict each other"):
            characterise.ring([TurnsSweep(11, turns("43", 12)), TurnsSweep(3, turns("43", 3))], SIZE, TABLE)

    def test_an_antenna_is_not_turns_on_a_ring(self):
        line = 500 / np.tanh(0.1 + 2j * np.pi * WIDE / 299792458.0 * 9)

        with pytest.raises(NotThisError, match="a capacitance already|X passes zero"):
            characterise.ring([TurnsSweep(5, Sweep(WIDE, line))], SIZE, TABLE)

    def test_above_self_resonance_nothing_is_told(self):
        high = np.geomspace(60e6, 200e6, 61)
        sweep = Sweep(high, 1 / (1 / turns("43", 15, high).impedance_ohm + 2j * np.pi * high * 4e-12))

        with pytest.raises(NotThisError, match="begins above their self-resonance"):
            characterise.ring([TurnsSweep(15, sweep)], SIZE, TABLE)

    @pytest.mark.parametrize(
        ("wound", "words"),
        [
            ([], "wound is none"),
            ([TurnsSweep(3, turns("43", 3)), TurnsSweep(5, turns("43", 5, F * 1000))], "hardly overlap"),
        ],
    )
    def test_what_cannot_be_read_is_refused(self, wound, words):
        with pytest.raises(OutOfDomainError, match=words):
            characterise.ring(wound, SIZE, TABLE)

    def test_turns_and_points_have_bounds(self):
        with pytest.raises(OutOfDomainError, match="turns is 0; it must be 1 to 200"):
            TurnsSweep(0, turns("43", 3))
        with pytest.raises(OutOfDomainError, match="of 5 points"):
            TurnsSweep(3, turns("43", 3, F[:5]))

    @pytest.mark.parametrize(
        ("low_hz", "high_hz", "told"), [(7e6, 7.1e6, False), (5e6, 9e6, False), (2e6, 4e6, True)]
    )
    def test_less_than_an_octave_is_too_narrow_to_tell(self, low_hz, high_hz, told):
        """At one frequency several mixes fit within their 20 %: the way of the curve tells them apart."""
        swept = [TurnsSweep(3, turns("43", 3, np.linspace(low_hz, high_hz, 101)))]
        if told:
            assert characterise.ring(swept, SIZE, TABLE).likely
            return

        with pytest.raises(NotThisError, match="too narrow to tell materials apart"):
            characterise.ring(swept, SIZE, TABLE)


class TestPart:
    def test_a_coil(self):
        found = characterise.part(Sweep(WIDE, coil(2.2e-6, 200, 2e-12)), "coil")

        assert found.inductance_h.value == pytest.approx(2.2e-6, rel=2e-3)
        assert found.capacitance_f.value == pytest.approx(2e-12, rel=0.02)
        assert found.resonance_hz.value == pytest.approx(1 / (2 * np.pi * np.sqrt(2.2e-6 * 2e-12)), rel=0.01)

    def test_a_capacitor_with_its_leads(self):
        omega = 2 * np.pi * WIDE
        found = characterise.part(Sweep(WIDE, 1 / (1j * omega * 120e-12 + 1e-9) + 1j * omega * 12e-9), "capacitor")

        assert found.capacitance_f.value == pytest.approx(120e-12, rel=2e-3)
        assert found.inductance_h.value == pytest.approx(12e-9, rel=0.05)

    def test_a_trap(self):
        """50 pF and 1.543 µH resonate at 18.12 MHz (computed)."""
        z = 1 / (1 / coil(1.543e-6, 250, 0.0) + 2j * np.pi * WIDE * 50e-12)
        found = characterise.part(Sweep(WIDE, z), "trap")

        assert found.resonance_hz.value == pytest.approx(18.12e6, rel=1e-3)
        assert found.inductance_h.value == pytest.approx(1.543e-6, rel=0.01)

    @pytest.mark.parametrize("kind", ["coil", "trap"])
    def test_an_antenna_is_called_no_part(self, kind):
        line = 500 / np.tanh(0.1 + 2j * np.pi * WIDE / 299792458.0 * 9)
        with pytest.raises(NotThisError, match="begins above its self-resonance"):
            characterise.part(Sweep(WIDE, line), kind)

        some = WIDE[WIDE > 9e6]
        line = 500 / np.tanh(0.1 + 2j * np.pi * some / 299792458.0 * 9)
        with pytest.raises(NotThisError, match=f"this is not a {kind} alone: its X passes zero"):
            characterise.part(Sweep(some, line), kind)

    def test_a_sweep_above_self_resonance_is_called_that(self):
        high = np.linspace(80e6, 120e6, 101)

        with pytest.raises(NotThisError, match="begins above its self-resonance"):
            characterise.part(Sweep(high, coil(2.2e-6, 200, 2e-12, high)), "coil")

    def test_a_sweep_too_narrow_is_called_that(self):
        narrow = np.linspace(14.15e6, 14.2e6, 101)

        with pytest.raises(NotThisError, match="too narrow to tell"):
            characterise.part(Sweep(narrow, coil(2.2e-6, 200, 2e-12, narrow)), "coil")

    def test_a_trap_outside_its_sweep_is_called_that(self):
        low = np.linspace(1e6, 5e6, 101)

        with pytest.raises(NotThisError, match="resonance does not lie inside the sweep"):
            characterise.part(
                Sweep(low, 1 / (1 / coil(1.543e-6, 250, 0.0, low) + 2j * np.pi * low * 50e-12)), "trap"
            )

    def test_a_coil_is_no_capacitor(self):
        with pytest.raises(NotThisError, match="a capacitor begins below zero"):
            characterise.part(Sweep(WIDE, coil(2.2e-6, 200, 2e-12)), "capacitor")

    def test_few_points_are_refused(self):
        with pytest.raises(OutOfDomainError, match="of 5 points"):
            characterise.part(Sweep(WIDE[:5], coil(2.2e-6, 200, 2e-12)[:5]), "coil")
