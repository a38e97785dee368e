"""What a search refuses, what a baseline teaches it, what an act says of itself: on a vertical, quickly solved."""

import numpy as np
import pytest

from yielding_coil.core.diagnosis import (
    AS_IT_IS,
    EFFORT,
    BandsRead,
    Case,
    DialRead,
    Done,
    LookRead,
    OhmRead,
    SweepRead,
    View,
    acts_of,
    as_built,
    cautions_of,
    diagnose,
    elements_of,
    installation,
    mending_cautions,
    resolution_m,
)
from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.core.line import Cable, Line
from yielding_coil.core.sweep import Sweep
from yielding_coil.core.system import Element
from yielding_coil.core.target import Target
from yielding_coil.core.wire import KINDS

FORTY = Target("40 m", 7.0e6, 7.2e6, 2.0)
COAX = Cable("5 mm", 50.0, 0.66, 1.35, 0.025)
HUNG = KINDS["vertical"].start(7.1e6)
ONE = installation(
    HUNG.structure(),
    "vertical",
    [FORTY],
    [(Element("line", "through", Line(COAX, 18.0)), "line")],
    earths=HUNG.earths,
    feed_at="garden",
)
SWEPT = np.linspace(1.8e6, 30e6, 301)


def swept(hung, line_m=18.0):
    return Sweep(SWEPT, Line(COAX, line_m).input_impedance(SWEPT, hung.structure().impedance_at(SWEPT)))


class TestBaseline:
    def test_a_wire_that_is_longer_is_found_longer(self):
        # All lengths by the ratio of the frequencies (scaling a proven design, common practice).
        longer = as_built(ONE, swept(HUNG.told(height_m=HUNG.height_m * 1.01)), View(0, ONE.line_end))
        assert longer.mean[0] == pytest.approx(0.01, abs=0.002)

    def test_a_line_that_is_longer_is_found_longer(self):
        longer = as_built(ONE, swept(HUNG, 18.2), View(0, ONE.line_end))
        assert longer.mean[2] == pytest.approx(0.2 / 18, abs=0.003)

    def test_what_it_teaches_is_surer_and_without_it_nothing_is_learnt(self):
        known, plain = as_built(ONE, swept(HUNG), View(0, ONE.line_end)), as_built(ONE, None, View(0, ONE.line_end))
        assert (known.spread[:4] < plain.spread[:4]).all()
        assert plain.measured is None
        assert known.misfit < 0.02


class TestActs:
    def test_each_has_its_effort_and_its_cautions(self):
        for act in acts_of(ONE):
            assert act.effort == EFFORT[act.where]
            assert ("ladder" in cautions_of(act)) == (act.where == "ladder")
            assert "radio_off" in cautions_of(act)

    def test_a_mending_begins_with_a_mark_and_ends_with_a_sweep(self):
        for key in elements_of(ONE):
            found = mending_cautions(ONE, key)
            assert (found[0], found[-1]) == ("mark_first", "sweep_again")
        assert "dig" in mending_cautions(ONE, "line")

    def test_without_a_line_there_is_none_to_test(self):
        bare = installation(HUNG.structure(), "vertical", [FORTY], [], earths=HUNG.earths)
        assert resolution_m(bare, 2e6, 30e6) is None
        assert not any(act.key.startswith("line_l") for act in acts_of(bare))

    def test_no_band_no_search(self):
        with pytest.raises(OutOfDomainError, match="at least one"):
            installation(HUNG.structure(), "vertical", [], [])


class TestRefusals:
    @pytest.mark.parametrize(
        ("act", "reading", "accepted"),
        [
            ("ohm_shack", LookRead("yes"), "a reading of ohm"),
            ("look_radials", OhmRead(1.0), "what was seen"),
            ("look_radials", LookRead("perhaps"), "yes, no"),
            ("line_load", OhmRead(1.0), "a sweep or an SWR"),
            ("ohm_shack", DialRead(((7.1e6, 2.0),)), "an ohmmeter's"),
            (AS_IT_IS, DialRead(((7.1e6, 0.5),)), "1 or more"),
            (AS_IT_IS, DialRead(((144e6, 2.0),)), "3.85 to 30 MHz"),
            (AS_IT_IS, BandsRead({"2 m": "gone"}), "40 m"),
        ],
    )
    def test_a_reading_that_a_test_has_not(self, act, reading, accepted):
        with pytest.raises(OutOfDomainError, match=accepted):
            diagnose(Case(ONE, done=(Done(act, reading),)))

    def test_a_test_that_there_is_not(self):
        with pytest.raises(NotFoundError) as told:
            diagnose(Case(ONE, done=(Done("twins:trap1", LookRead("alike")),)))
        assert "look_radials" in told.value.accepted

    def test_a_sweep_that_reaches_no_band(self):
        f = np.linspace(100e6, 120e6, 51)
        with pytest.raises(OutOfDomainError, match="reaches a band"):
            diagnose(
                Case(
                    ONE,
                    done=(Done(AS_IT_IS, SweepRead(Sweep(f, np.full(51, 60 + 0j)))),),
                )
            )
