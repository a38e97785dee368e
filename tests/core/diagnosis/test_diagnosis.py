"""What practice says of faults, and what a search must never do."""

from dataclasses import replace

import numpy as np
import pytest
from made_faults import SWEPT, Seeded, known, swept

from yielding_coil.analyser.breaking import Truth
from yielding_coil.core.diagnosis import (
    AS_IT_IS,
    FOUND,
    SPLITS,
    BandsRead,
    Case,
    DialRead,
    Done,
    Inquiry,
    LookRead,
    OhmRead,
    SweepRead,
    by_halves,
    diagnose,
    elements_of,
    hindsight_way,
)

# Wires are solved once an installation: seconds each.
pytestmark = pytest.mark.deep


def first_of(name, truth, seed=7001):
    """A known fault, swept at the radio."""
    seeded = Seeded(name, seed, truth)
    seeded.inquiry.add(seeded.read(seeded.inquiry.act(AS_IT_IS)))
    return seeded


def top(found):
    return found.left[0].key, found.left[0].code


class TestPractice:
    @pytest.mark.parametrize("code", ["open", "shorted"])
    def test_a_buried_line_broken_at_seven_tenths(self, code):
        # Common practice: of 30 m of buried line the break was dug up at 21 m; here of 25 m at the same share.
        seeded = first_of("dipole", Truth("line", code, 21 / 30, 0.3))
        found = seeded.inquiry.diagnosis()
        assert (found.state, top(found)) == ("found", ("line", code))
        assert abs(found.left[0].at_m - seeded.broken.place_m()) < found.left[0].within_m < 1.0

    def test_bands_name_the_trap(self):
        # Common practice: a failed trap spoils its own band and all lower ones, whose dips move down.
        said = BandsRead({"20 m": "moved_down", "15 m": "moved_down", "10 m": "fine"})
        found = diagnose(Case(known("trapped"), done=(Done(AS_IT_IS, said),)))
        odds = [each for each in found.left if each.key.startswith("trap2")]
        assert found.left[0].key == "trap2-leg1"
        assert sum(each.odds for each in odds) > 0.7
        # A sweep cannot tell left from right: both twins alike.
        twins = {key: sum(e.odds for e in odds if e.key == key) for key in ("trap2-leg1", "trap2-leg2")}
        assert twins["trap2-leg1"] == pytest.approx(twins["trap2-leg2"], rel=1e-6)

    def test_twin_against_twin_settles_it(self):
        seeded = first_of("trapped", Truth("trap2-leg2", "shorted", 0.3))
        found = seeded.inquiry.diagnosis()
        assert found.state == "looking"
        assert found.offered[0].act.code == "twins"
        seeded.inquiry.add(seeded.read(found.offered[0].act))
        after = seeded.inquiry.diagnosis()
        assert (after.state, top(after)) == ("found", ("trap2-leg2", "shorted"))

    def test_fifteen_ohms_in_a_joint(self):
        seeded = first_of("dipole", Truth("feed", "resistance", 15.0))
        found = seeded.inquiry.diagnosis()
        assert {each.code for each in found.left[:2]} == {"resistance"}
        assert {each.key for each in found.left[:2]} == {"feed", "feed plug"}
        seeded.inquiry.add(seeded.read(seeded.inquiry.act("ohm_line_short")))
        after = seeded.inquiry.odds()[0]
        assert (after.key, after.odds > 0.6) == ("feed", True)
        assert after.amount == pytest.approx(15.0, rel=0.25)

    def test_a_tuner_left_in(self):
        # Twice in one evening (common practice): asked for before anything else, and recognised by the first sweep.
        seeded = Seeded("dipole", 7004, Truth("tuner", "left_in", 0.5, 0.5))
        assert seeded.inquiry.offers()[0].act.key == "line_straight"
        seeded.inquiry.add(seeded.read(seeded.inquiry.act(AS_IT_IS)))
        found = seeded.inquiry.diagnosis()
        assert (found.state, top(found)) == ("found", ("tuner", "left_in"))


class TestHonesty:
    def test_what_cannot_be_told_apart_is_named_together(self):
        seeded = first_of("dipole", Truth("feed", "open"))
        seeded.inquiry.add(seeded.read(seeded.inquiry.act("line_load")))
        found = seeded.inquiry.diagnosis()
        assert (found.state, found.alike) == ("alike", 2)
        assert {(each.key, each.code) for each in found.left[:2]} == {("feed", "open"), ("choke", "open")}

    def test_nothing_wrong_is_not_called_broken(self):
        seeded = Seeded("dipole", 7005, Truth("choke", "core_broken"))
        seeded.inquiry.add(seeded.read(seeded.inquiry.act(AS_IT_IS)))
        found = seeded.inquiry.diagnosis()
        assert found.state == "looking"
        assert ("", "nothing") in {(each.key, each.code) for each in found.left[:3]}

    @pytest.mark.parametrize("name", ["dipole", "loaded vertical"])
    @pytest.mark.parametrize("season", [-0.01, 0.004, 0.01])
    def test_a_dip_that_another_season_moved_is_not_called_broken(self, name, season):
        # A percent, more than its trial has (common practice: wet, sag, frost): a narrow dip moves by its width.
        seeded = Seeded(name, 8001, Truth("choke", "core_broken"))
        sound = replace(seeded.broken, truth=None, season=season)
        z = sound.impedance_ohm(SWEPT, seeded.inquiry.act(AS_IT_IS))
        seeded.inquiry.add(Done(AS_IT_IS, SweepRead(swept(SWEPT, z, seeded.rng))))
        found = seeded.inquiry.diagnosis()
        assert found.state == "looking" or top(found) == ("", "nothing")

    def test_by_word_and_dial_it_is_less_sure(self):
        seeded = first_of("dipole", Truth("line", "open", 0.5))
        case = Case(known("dipole"), done=(Done(AS_IT_IS, DialRead(((7.1e6, 60.0),))),), instrument="dial")
        blind = Inquiry(case).odds()[0]
        assert blind.odds < 0.6 < FOUND < seeded.inquiry.odds()[0].odds
        assert blind.at_m is None

    def test_no_ladder_while_something_lower_splits(self):
        for seed in range(7100, 7104):
            seeded = Seeded("end-fed", seed)
            seeded.inquiry.add(seeded.read(seeded.inquiry.act(AS_IT_IS)))
            offered = seeded.inquiry.offers()
            lower = [each for each in offered if each.act.where != "ladder" and each.splits >= SPLITS]
            assert not lower or offered[0].act.where != "ladder"

    def test_another_plane(self):
        seeded = Seeded("dipole", 7003, Truth("leg1", "broken", 0.5, 0.2))
        z = seeded.broken.impedance_ohm(SWEPT, seeded.inquiry.act("at_feed"))
        seeded.inquiry.add(Done(AS_IT_IS, SweepRead(swept(SWEPT, z, seeded.rng))))
        assert seeded.inquiry.diagnosis().other_plane == (0, "at_feed")

    def test_answers_that_contradict(self):
        case = Case(
            known("dipole"), done=(Done("ohm_line_open", OhmRead(0.3)), Done("ohm_line_short", OhmRead(np.inf)))
        )
        found = diagnose(case)
        assert (found.state, found.against.first, found.against.second) == ("contradiction", 0, 1)

    def test_an_odd_look_alone_contradicts_nothing(self):
        seeded = first_of("dipole", Truth("line", "open", 0.5))
        seeded.inquiry.add(Done("look_up", LookRead("yes")))
        assert seeded.inquiry.diagnosis().against is None


class TestSchools:
    def test_line_first_and_antenna_first(self):
        said = (Done(AS_IT_IS, BandsRead({"40 m": "gone"})),)
        by = {
            school: diagnose(Case(known("end-fed"), done=said, school=school)).offered[0].act.code
            for school in ("line_first", "antenna_first")
        }
        assert by["line_first"] in {"line_straight", "ohm_shack", "line_load", "line_open", "line_short"}
        assert by["antenna_first"] in {"at_feed", "ohm_feed", "ohm_antenna", "above_match", "look_up"}

    @pytest.mark.parametrize("name", ["dipole", "trapped", "loop"])
    def test_by_halves_ends_with_one_or_what_no_test_parts(self, name):
        one = known(name)
        for key in elements_of(one):
            found = by_halves(one, key)
            assert key in found.left
            assert 1 <= found.tests <= len(elements_of(one))
            assert found.effort >= found.tests

    def test_the_hindsight_way_in_hindsight(self):
        seeded = first_of("trapped", Truth("trap2-leg2", "shorted", 0.3))
        acts = [act for act in seeded.inquiry.acts.values() if act.key != AS_IT_IS]
        way = hindsight_way(seeded.inquiry, {act.key: seeded.read(act).reading for act in acts})
        assert way == ("twins:trap2-leg1",)
        # Nothing of it stays: the search is as it was.
        assert seeded.inquiry.diagnosis().state == "looking"
