import numpy as np
import pytest

from yielding_coil.core.bode_fano import lowest_reflection, lowest_swr
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.matching import best_parts, l_networks
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.target import Target


@pytest.mark.parametrize(("circuits", "bq"), [("antenna alone", 0.75), ("one more", 1.732), ("any", 2.860)])
def test_bq_at_swr_two(circuits, bq):
    """Lopez, IEEE Antennas and Propagation Magazine 46(4), 2004: SWR 2 at BQ 0.75, 1.732, 2.860, printed so."""
    assert lowest_swr(bq / 10, 10, circuits) == pytest.approx(2.0, rel=5e-4)


@pytest.mark.parametrize("bq", [0.1, 0.75, 2.0, 10.0])
def test_more_circuits_never_do_worse_and_wider_bands_never_better(bq):
    alone, one, every = (lowest_reflection(bq, 1.0, c) for c in ("antenna alone", "one more", "any"))

    assert 0 < every < one < alone < 1
    assert lowest_reflection(bq * 1.1, 1.0) > every


@pytest.mark.parametrize("bq", [0.2, 0.8, 2.5])
def test_the_closed_forms_solve_the_equations_as_printed(bq):
    """BQ = 2Γ/(1 − Γ²), 2√Γ/(1 − Γ), π/ln(1/Γ)."""
    alone, one, every = (lowest_reflection(bq, 1.0, c) for c in ("antenna alone", "one more", "any"))

    assert 2 * alone / (1 - alone**2) == pytest.approx(bq)
    assert 2 * np.sqrt(one) / (1 - one) == pytest.approx(bq)
    assert np.pi / np.log(1 / every) == pytest.approx(bq)


@pytest.mark.parametrize("q", [5.0, 12.0, 30.0])
@pytest.mark.parametrize("wide", [0.02, 0.06])
def test_an_ideal_series_circuit_tuned_and_transformed_reaches_the_first_limit(q, wide):
    """The resistance that serves the band best is found by trying: an independent way to Lopez's first form."""
    f0 = 10e6
    f = np.linspace(f0 * (1 - wide / 2), f0 * (1 + wide / 2), 801)
    x = q * (f / f0 - f0 / f)
    least = min(np.abs((r + 1j * r * x - 1) / (r + 1j * r * x + 1)).max() for r in np.linspace(0.3, 1.2, 3001))

    assert least == pytest.approx(lowest_reflection(wide, q, "antenna alone"), rel=0.02)


@pytest.mark.parametrize(("resistance", "q"), [(20.0, 8.0), (90.0, 15.0), (300.0, 6.0)])
def test_no_lossless_l_network_gets_below_the_floor(resistance, q):
    f0, low, high = 14.2e6, 13.5e6, 14.9e6
    f = np.linspace(12e6, 16.5e6, 301)
    sweep = Sweep(f, resistance * (1 + 1j * q * (f / f0 - f0 / f)) - 90j)
    target = Target("band", low, high, 2.0)
    floor = lowest_swr((high - low) / target.center_hz, float(sweep.q(target.center_hz)), "any")
    found = [
        best_parts(sweep, network, [target], Inductor(1e-6, q=1e9), Capacitor(1e-11, q=1e9)).worst_swr
        for network in l_networks(complex(sweep.impedance_at(target.center_hz)), target.center_hz)
    ]

    assert found
    assert min(found) > floor


@pytest.mark.parametrize(
    ("wide", "q", "circuits", "words"),
    [
        (0.0, 5, "any", "fractional_bandwidth is 0.0"),
        (0.1, -1, "any", "q is -1.0"),
        (0.1, 5, "two", "circuits is two"),
    ],
)
def test_refusals(wide, q, circuits, words):
    with pytest.raises(OutOfDomainError, match=words):
        lowest_reflection(wide, q, circuits)
