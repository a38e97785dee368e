"""Passes over a sweep: gathered, averaged, cut into pieces, stopped, broken off."""

import numpy as np
import pytest

from yielding_coil.analyser.driver import AnalyserGoneError, Taken, grid, one_pass, take

F = grid(20e6, 30e6, 250)


class Still:
    """An analyser without noise that notes what it was asked; it breaks after `lasts` pieces."""

    identity, low_hz, high_hz, most_points = "still", 1e6, 100e6, 101

    def __init__(self, lasts=10**9, noise=0.0):
        self.asked, self.lasts, self.noise = [], lasts, noise
        self.rng = np.random.default_rng(21)

    def sweep(self, low_hz, high_hz, points):
        if len(self.asked) >= self.lasts:
            raise AnalyserGoneError("gone")
        self.asked.append((low_hz, high_hz, points))
        f = np.linspace(low_hz, high_hz, points)
        noise = self.rng.normal(size=(points, 2)).view(complex)[:, 0] * self.noise / np.sqrt(2)
        return 0.5 * np.exp(-2j * np.pi * f * 20e-9) + noise

    def close(self):
        pass


TRUE = 0.5 * np.exp(-2j * np.pi * F * 20e-9)


def on(step, taken):
    return True


def test_a_long_sweep_is_put_together_from_pieces_without_a_seam():
    analyser = Still()
    raw = one_pass(analyser, F, lambda raw: True)
    assert raw == pytest.approx(TRUE)
    assert [points for _, _, points in analyser.asked] == [83, 83, 84]
    assert analyser.asked[0][0] == F[0]
    assert analyser.asked[-1][1] == F[-1]


def test_passes_are_averaged_and_their_scatter_is_the_noise():
    """64 passes of 250 points: rms of the noise within 2 %, the mean's error an eighth of it."""
    taken, problem = take(Still(noise=0.01), F, 64, on)
    assert problem is None
    assert taken.noise_rms == pytest.approx(0.01, rel=0.02)
    assert np.sqrt(np.mean(np.abs(taken.mean - TRUE) ** 2)) == pytest.approx(0.01 / 8, rel=0.15)


def test_one_pass_knows_its_noise_by_its_roughness_and_a_smooth_one_has_none():
    rough, _ = take(Still(noise=0.01), F, 1, on)
    smooth, _ = take(Still(), F, 1, on)
    assert rough.noise_rms == pytest.approx(0.01, rel=0.3)
    assert smooth.noise_rms < 2e-4
    assert Taken(F[:4]).noise_rms == 0.0


def test_stopping_in_a_pass_throws_only_that_pass_away():
    steps = []

    def stop_in_the_third(step, taken):
        steps.append((step.number, step.points))
        return (step.number, step.points) != (3, 166)

    taken, problem = take(Still(), F, None, stop_in_the_third)
    assert problem is None
    assert taken.passes == 2
    assert steps[-1] == (3, 166)


def test_stopping_at_the_end_of_a_pass_keeps_it():
    taken, _ = take(Still(), F, None, lambda step, taken: step.points < 250)
    assert taken.passes == 1


def test_what_breaks_off_is_told_beside_what_was_there():
    taken, problem = take(Still(lasts=7), F, 5, on)
    assert isinstance(problem, AnalyserGoneError)
    assert taken.passes == 2
    assert taken.mean == pytest.approx(TRUE)
    nothing, problem = take(Still(lasts=1), F, 5, on)
    assert nothing.passes == 0
    assert problem is not None


def test_one_point_lies_in_the_middle():
    assert grid(20e6, 30e6, 1) == pytest.approx([25e6])
    assert grid(20e6, 30e6, 3) == pytest.approx([20e6, 25e6, 30e6])
