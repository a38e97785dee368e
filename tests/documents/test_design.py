import pytest
from pydantic import ValidationError

from yielding_coil.core.errors import NotFoundError, OutOfDomainError
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import CoaxCapacitor, DesignContent, read_content

# A revision as version 1 wrote it: kept for ever, so that what was saved then is read always.
VERSION_1 = {
    "version": 1,
    "antenna": {"kind": "sweep", "sweep_id": "00000000-0000-4000-8000-000000000000"},
    "targets": [{"label": "15 m", "low_hz": 21.0e6, "high_hz": 21.45e6, "swr_limit": 2.0}],
    "elements": [
        {
            "kind": "coax_capacitor",
            "key": "capacitor",
            "place": "shunt",
            "capacitance_f": 6.53e-12,
            "cable": "pe-5",
            "spread": 0.04,
            "end_spread_f": 2e-13,
            "piece": None,
        },
        {
            "kind": "coil",
            "key": "coil",
            "place": "series",
            "inductance_h": 2.28e-6,
            "former_m": 0.032,
            "wire": "cu-1.6",
            "pitch_m": None,
            "spread": 0.04,
            "piece": None,
        },
        {
            "kind": "capacitor",
            "key": "mica",
            "place": "shunt",
            "capacitance_f": 1e-10,
            "q": 1000.0,
            "spread": 0.05,
            "piece": {"id": "00000000-0000-4000-8000-000000000001", "revision": 1, "values": {}},
        },
        {
            "kind": "line",
            "key": "line",
            "place": "through",
            "cable": "foam-6",
            "length_m": 17.6,
            "piece": None,
        },
    ],
    "seed": 1,
    "reading_spread": 0.02,
}


def test_version_1_is_read_and_written_unchanged():
    """What came to its parts and its antenna since is written too, as nothing."""
    written = read_content(VERSION_1).model_dump(mode="json")

    for kept, element in zip(VERSION_1["elements"], written["elements"], strict=True):
        assert element == {**dict.fromkeys(element), **kept}
    antenna = {**VERSION_1["antenna"], "shortened": 1.0}
    assert {**written, "elements": VERSION_1["elements"]} == {**VERSION_1, "antenna": antenna, "beside": []}


def coil(**changes):
    return Coil(key="coil", place="series", inductance_h=2.28e-6, former_m=0.032, wire="cu-1.6").model_copy(
        update=changes
    )


def test_a_coil_reads_its_inductance_where_it_is_read():
    """The value is the reading at the band: reactance of the core part over ω, capacitance included."""
    import numpy as np

    part = coil().to_core().part(21.225e6)
    reads = np.imag(part.impedance_ohm(21.225e6)) / (2 * np.pi * 21.225e6)

    assert reads == pytest.approx(2.28e-6, rel=2e-4)
    assert float(part.inductance_h) < 2.28e-6


def test_turns_come_in_halves_and_the_exact_fraction_reads_the_value():
    exact = coil().to_core().exact_turns(21.225e6)

    assert coil().to_core().solenoid(exact).reading_h(21.225e6) == pytest.approx(2.28e-6, rel=1e-6)
    assert coil().to_core().turns(21.225e6) in (
        round(exact * 2) / 2,
        round(exact * 2) / 2 + 0.5,
        round(exact * 2) / 2 - 0.5,
    )


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"pitch_m": 1e-3}, "pitch_m is 1 mm; it must be at least the wire over its covering, 1.7 mm"),
        ({"inductance_h": 1e-9}, "take another former"),
        ({"inductance_h": 400e-6}, "self-resonance|take another former"),
    ],
)
def test_a_coil_that_cannot_be_wound_is_refused(changes, words):
    with pytest.raises(OutOfDomainError, match=words):
        coil(**changes).to_core().part(21.225e6)


def test_what_is_not_in_the_tables_is_refused():
    with pytest.raises(NotFoundError, match="no cable “string”"):
        CoaxCapacitor(key="c", place="shunt", capacitance_f=1e-11, cable="string").to_core()
    with pytest.raises(NotFoundError, match="no wire “string”"):
        coil(wire="string").to_core()


@pytest.mark.parametrize(
    "change",
    [
        {"elements": [{"kind": "coil", "key": "coil", "place": "through"}]},
        {"targets": []},
        {"seed": -1},
        {"surprise": 1},
        {"antenna": {"kind": "sweep", "sweep_id": "none"}},
        {"reading_spread": float("nan")},
    ],
)
def test_what_is_no_design_is_refused(change):
    with pytest.raises(ValidationError):
        read_content({**VERSION_1, **change})


def test_two_elements_with_one_key_are_refused():
    from yielding_coil.core.parts import FixedLoad

    twice = DesignContent.model_validate({**VERSION_1, "elements": VERSION_1["elements"][:1] * 2})
    with pytest.raises(OutOfDomainError, match="a key of its own each"):
        twice.to_core(FixedLoad(50)).system()
