"""Entries and plans as they are kept: every kind of version 1 is read for ever, and a log is replayed."""

from datetime import UTC, datetime, timedelta
from types import SimpleNamespace

import numpy as np
import pytest
from pydantic import ValidationError
from stored import stands_in

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.log import CutData, HungData, NoteData, ReadingData, RemindData, replay
from yielding_coil.store.entries import asked_to_look, data_of, keep_entry, plan_of
from yielding_coil.store.sweeps import keep_sweep
from yielding_coil.store.tables import Build

# One of each kind as version 1 kept it; these lines never change.
KEPT = [
    {"kind": "hung", "form": "dipole", "arrangement": "linked", "reach_m": [2.96, 3.4]},
    {"kind": "built", "design_id": "8d1f6a52-6f0e-4c55-9f53-0a5d2f6b7c01", "number": 3},
    {"kind": "on_air", "evidence": "report", "band": "12 m", "against": "", "stronger_db": None},
    {"kind": "on_air", "evidence": "comparison", "band": "", "against": "the loft dipole", "stronger_db": -3.0},
    {
        "kind": "checked_again",
        "after": "glue",
        "key": "coil",
        "before_sweep_id": "8d1f6a52-6f0e-4c55-9f53-0a5d2f6b7c02",
    },
    {"kind": "done"},
    {"kind": "remind", "when": "in_a_year"},
    {"kind": "position_removed", "photograph": "box.jpg"},
    {
        "kind": "fault_begun",
        "happened": ["storm", "rain"],
        "bands": {"40 m": "gone", "20 m": "moved_down"},
        "baseline_sweep_id": "8d1f6a52-6f0e-4c55-9f53-0a5d2f6b7c03",
        "line": {"cable": "pe-5", "length_m": 30.5},
        "feed_at": "ladder",
        "told": {"antenna": "end-fed", "cable": "pe-5", "line_m": 12.0, "feed_at": None},
        "school": "line_first",
        "instrument": "dial",
        "practice": True,
    },
    {"kind": "fault_test", "act": "look_up", "reading": None, "skipped": True},
    {"kind": "fault_test", "act": "as_it_is", "reading": {"kind": "sweep"}, "skipped": False},
    {"kind": "fault_test", "act": "ohm_shack", "reading": {"kind": "ohm", "ohm": None}, "skipped": False},
    {"kind": "fault_test", "act": "look_feed", "reading": {"kind": "look", "answer": "yes"}, "skipped": False},
    {
        "kind": "fault_test",
        "act": "at_feed",
        "reading": {"kind": "dial", "points": [{"frequency_hz": 7.1e6, "swr": 9.0}]},
        "skipped": False,
    },
    {
        "kind": "fault_test",
        "act": "as_it_is",
        "reading": {"kind": "bands", "bands": {"40 m": "fine"}},
        "skipped": False,
    },
    {"kind": "fault_mended", "element": "line", "fault": "shorted", "marked": True, "given_up": False},
    {"kind": "reading", "link": 0, "reading": {"kind": "dip", "meter": "meter", "dip_hz": 24.2e6, "swr": None}},
    {
        "kind": "reading",
        "link": 0,
        "reading": {"kind": "swr", "meter": "radio", "points": [{"frequency_hz": 24.5e6, "swr": 2.6}]},
    },
    {
        "kind": "reading",
        "link": 0,
        "reading": {"kind": "edges", "meter": "meter", "swr": 2.0, "low_hz": 24.1e6, "high_hz": None},
    },
    {
        "kind": "reading",
        "link": 1,
        "reading": {
            "kind": "size",
            "meter": "analyser",
            "points": [{"frequency_hz": 21e6, "swr": 2.0, "size_ohm": 61.9}],
        },
    },
    {
        "kind": "reading",
        "link": 1,
        "reading": {
            "kind": "unsigned",
            "meter": "meter",
            "points": [{"frequency_hz": 21e6, "resistance_ohm": 50.0, "size_reactance_ohm": 20.0}],
        },
    },
    {
        "kind": "reading",
        "link": 0,
        "reading": {
            "kind": "power",
            "meter": "power",
            "points": [{"frequency_hz": 24e6, "forward_w": 10.0, "reflected_w": 1.0}],
            "full_scale_each": True,
        },
    },
    {"kind": "bench_check", "passed": False, "key": "unun", "setup": "resistor", "stated": ["bucking"]},
    {"kind": "reading", "link": 0, "reading": {"kind": "sweep"}},
    {"kind": "cut", "link": 0, "act": "fold", "per_leg_m": [0.088, 0.088]},
    {"kind": "cut", "link": 0, "act": "cut_folds", "per_leg_m": []},
    {"kind": "bench_check", "passed": True},
    {"kind": "note"},
]
KEPT_PLAN = {
    "version": 1,
    "form": "vertical",
    "arrangement": "nested",
    "rule": "vertical-wire",
    "covered": True,
    "corners": 3,
    "added": 0.06,
    "aim": "low",
    "stop": "dip",
    "transformer": True,
}


@pytest.mark.parametrize("kept", KEPT, ids=lambda k: (k.get("reading") or k)["kind"])
def test_what_version_1_kept_is_read_and_kept_the_same(kept):
    assert stands_in(kept, data_of(SimpleNamespace(data=kept)).model_dump(mode="json"))


def test_a_plan_of_version_1_and_one_that_nobody_chose():
    assert stands_in(KEPT_PLAN, plan_of(SimpleNamespace(wire=KEPT_PLAN)).model_dump(mode="json"))
    assert plan_of(SimpleNamespace(wire=None)).form == "dipole"


def test_a_log_is_replayed_to_how_the_wire_hangs():
    said = [data_of(SimpleNamespace(data=kept)) for kept in KEPT]
    hangs = replay(said)

    assert hangs[0].leg(1) == (pytest.approx(3.4), 0.0)
    assert hangs[-4].leg(0) == (pytest.approx(2.96), pytest.approx(0.088))
    assert hangs[-1].leg(0) == (pytest.approx(2.872), 0.0)


def test_hung_anew_begins_anew():
    said = [HungData(reach_m=[2.96]), CutData(act="cut", per_leg_m=[0.1]), HungData(reach_m=[3.2]), NoteData()]
    assert replay(said)[-1].leg(0) == (3.2, 0.0)


def test_what_cannot_be_is_refused():
    with pytest.raises(OutOfDomainError, match="not hung yet"):
        replay([CutData(act="cut", per_leg_m=[0.1])])
    with pytest.raises(OutOfDomainError, match="one of 1 bands"):
        replay([HungData(reach_m=[3.0]), ReadingData(link=1, reading={"kind": "sweep"})])
    for wrong in ({"kind": "hung", "reach_m": []}, {"kind": "cut", "act": "saw"}, {"kind": "reading"}):
        with pytest.raises(ValidationError):
            data_of(SimpleNamespace(data=wrong))


def test_a_reminder_is_due_after_a_year_unless_it_was_swept(session):
    build = Build(name="Orchard", power_w=100.0, mode="speech", targets=[])
    session.add(build)
    session.flush()
    now = datetime(2027, 12, 1, tzinfo=UTC)
    assert asked_to_look(session, build.id, now) is None
    asked = datetime(2026, 11, 30, tzinfo=UTC)
    keep_entry(session, build.id, RemindData(when="in_a_year"), happened_at=asked)
    keep_entry(session, build.id, RemindData(when="after_storm"), happened_at=asked)
    assert asked_to_look(session, build.id, asked + timedelta(days=300)) is None
    assert asked_to_look(session, build.id, now) == asked
    f = np.linspace(24e6, 26e6, 11)
    row = keep_sweep(
        session,
        Sweep(f, np.full(11, 50 + 0j)),
        original=b"",
        original_name="looked.s1p",
        reference_ohm=50.0,
        source="typed",
        build_id=build.id,
    )
    row.swept_at = now - timedelta(days=2)
    session.flush()
    assert asked_to_look(session, build.id, now) is None
