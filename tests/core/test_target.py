import numpy as np
import pytest

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.matching import best_parts, candidates
from yielding_coil.core.parts import Capacitor, Inductor
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import worst_over
from yielding_coil.core.target import Target, judged_at, require_inside

LOW = Target("40 m", 7.0e6, 7.2e6, 2.0)
HIGH = Target("30 m", 10.1e6, 10.15e6, 3.0)


def wire():
    f = np.linspace(6e6, 11e6, 501)
    return Sweep(f, 60 + 200j * (f / 8.4e6 - 8.4e6 / f))


def test_every_target_is_judged_at_its_own_limit():
    """|Γ| of SWR 2 is 1/3, of 3 one half."""
    frequency, allowed = judged_at([LOW, HIGH], points=5)

    assert frequency[[0, 4, 5, 9]].tolist() == [7.0e6, 7.2e6, 10.1e6, 10.15e6]
    assert allowed == pytest.approx([1 / 3] * 5 + [1 / 2] * 5)


def test_two_targets_share_the_burden_by_their_limits():
    """At the best of two bands no other pair of values in a fine grid lowers the worse of both."""
    antenna = wire()
    network = candidates(antenna, [LOW, HIGH])[0]
    best = best_parts(antenna, network, [LOW, HIGH], Inductor(1e-6, q=220), Capacitor(1e-11, q=1000))
    kinds = {"coil": lambda v: Inductor(v, q=220), "capacitor": lambda v: Capacitor(v, q=1000)}

    def burden(series, shunt):
        system = best.shape.system(antenna, kinds[best.shape.series](series), kinds[best.shape.shunt](shunt))
        gamma = [(s - 1) / (s + 1) for s in worst_over(system, [LOW, HIGH])]
        return max(gamma[0] * 3, gamma[1] * 2)

    at_best = burden(best.series_value, best.shunt_value)
    around = np.exp(np.linspace(-0.3, 0.3, 25))
    others = [burden(best.series_value * a, best.shunt_value * b) for a in around for b in around]
    assert at_best <= min(others) * (1 + 1e-3)


@pytest.mark.parametrize(
    ("made", "words"),
    [
        (("x", 7.2e6, 7.0e6, 2.0), "high_hz is 7000000.0; it must be above low_hz"),
        (("x", 7.0e6, 7.0e6, 2.0), "above low_hz"),
        (("x", -1.0, 7.0e6, 2.0), "low_hz is -1.0; it must be above zero"),
        (("x", 7.0e6, 7.2e6, 1.0), "swr_limit is 1.0; it must be above 1"),
        (("x", 7.0e6, 7.2e6, float("nan")), "above 1"),
    ],
)
def test_what_is_no_target_is_refused(made, words):
    with pytest.raises(OutOfDomainError, match=words):
        Target(*made)


def test_a_target_outside_the_sweep_is_named():
    require_inside([LOW, HIGH], wire())
    with pytest.raises(OutOfDomainError, match=r"20 m, 14.000 to 14.350 MHz; it must be inside the sweep, 6.000"):
        require_inside([LOW, Target("20 m", 14.0e6, 14.35e6, 2.0)], wire())


def test_no_target_is_refused():
    with pytest.raises(OutOfDomainError, match="at least one band"):
        judged_at([])
