"""The wiring of a box: connected as it is drawn, it is the cascade that it was drawn from."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from made import design_of

from yielding_coil.core.reflection import reflection_of
from yielding_coil.core.sheet import box_wiring

HZ = 14.1e6
BAND = {"label": "20 m", "low_hz": 14.0e6, "high_hz": 14.35e6, "swr_limit": 2.0}


def coil(key, place, henry):
    return {"kind": "coil", "key": key, "place": place, "inductance_h": henry, "former_m": 0.032, "wire": "cu-1.6"}


def capacitor(key, place, farad):
    return {"kind": "capacitor", "key": key, "place": place, "capacitance_f": farad}


def stub(key, place, metres):
    return {"kind": "stub", "key": key, "place": place, "cable": "pe-5", "length_m": metres, "end": "shorted"}


def design(*elements, ohm=94.0, reactance=-463.0):
    return design_of(
        {
            "antenna": {"kind": "resistor", "resistance_ohm": ohm, "reactance_ohm": reactance},
            "targets": [BAND],
            "elements": [*elements, {"kind": "line", "key": "line", "cable": "pe-5", "length_m": 3.0}],
        }
    )


def by_nodes(made):
    """What the socket sees, by nodal analysis of the drawn wiring alone (any text on circuits: Y·v = i)."""
    wiring = box_wiring(made)
    places = list(
        dict.fromkeys([*wiring.posts, "coax centre", "coax shield", *sum((p.between for p in wiring.parts), ())])
    )
    # A link is a wire: both its places are one node.
    node = {place: k for k, place in enumerate(places)}
    for a, b in wiring.links:
        old, new = node[a], node[b]
        node = {place: new if k == old else k for place, k in node.items()}
    siemens = np.zeros((len(places), len(places)), dtype=complex)

    def join(a, b, admittance):
        i, k = node[a], node[b]
        siemens[i, i] += admittance
        siemens[k, k] += admittance
        siemens[i, k] -= admittance
        siemens[k, i] -= admittance

    at = np.array([HZ])
    elements = {e.key: e for e in made.elements}
    for part in wiring.parts:
        join(*part.between, 1 / elements[part.key].part(made.center_hz).impedance_ohm(at)[0])
    join(*wiring.posts, 1 / made.antenna.impedance_at(at)[0])
    ground, centre = node["coax shield"], node["coax centre"]
    kept = sorted(set(node.values()) - {ground})
    current = np.array([1.0 if k == centre else 0.0 for k in kept])
    return np.linalg.solve(siemens[np.ix_(kept, kept)], current)[kept.index(centre)]


PARTS = st.lists(
    st.one_of(
        st.tuples(st.just(coil), st.sampled_from(["series", "shunt"]), st.floats(0.3e-6, 6e-6)),
        st.tuples(st.just(capacitor), st.sampled_from(["series", "shunt"]), st.floats(10e-12, 900e-12)),
        st.tuples(st.just(stub), st.sampled_from(["series", "shunt"]), st.floats(0.3, 2.0)),
    ),
    min_size=1,
    max_size=4,
)


@given(PARTS)
def test_drawn_as_it_is_connected(parts):
    made = design(*(make(f"{make.__name__} {k}", place, value) for k, (make, place, value) in enumerate(parts)))
    system = made.system()
    seen = system.impedance(np.array([HZ]), system.match_station)[0]
    assert reflection_of(by_nodes(made)) == pytest.approx(reflection_of(seen), abs=1e-9)


def test_nothing_to_box_no_box():
    assert box_wiring(design()) is None


def test_a_transformer_that_shares_its_ground_and_one_that_does_not():
    def unun(wiring, **more):
        core = {"mix": "43", "size": "FT240"}
        return {
            "kind": "transformer",
            "key": "unun",
            "core": core,
            "wire": "cu-1",
            "wiring": wiring,
            "primary_turns": 2,
            "secondary_turns": 14,
            **more,
        }

    shared = box_wiring(design(unun("tapped", input_capacitance_f=1e-10), ohm=2450.0, reactance=0.0))
    assert [p.between for p in shared.parts] == [
        ("wire post", "counterpoise", "coax centre", "counterpoise"),
        ("coax centre", "counterpoise"),
    ]
    assert shared.links == (("counterpoise", "coax shield"),)
    apart = box_wiring(design(unun("separate", input_capacitance_f=1e-10), ohm=2450.0, reactance=0.0))
    assert [p.between for p in apart.parts] == [
        ("wire post", "counterpoise", "coax centre", "coax shield"),
        ("coax centre", "coax shield"),
    ]
    assert apart.links == ()
    legs = box_wiring(design(unun("current-balun-4-two"), ohm=200.0, reactance=0.0))
    assert legs.posts == ("leg 1", "leg 2")


def test_a_part_between_a_transformer_and_the_wire():
    core = {"mix": "43", "size": "FT240"}
    unun = {
        "kind": "transformer",
        "key": "unun",
        "core": core,
        "wire": "cu-1",
        "wiring": "tapped",
        "primary_turns": 2,
        "secondary_turns": 14,
    }
    both = box_wiring(design(coil("coil", "series", 2e-6), unun, ohm=2450.0, reactance=-300.0))
    assert [p.between for p in both.parts] == [
        ("wire post", "joint 1"),
        ("joint 1", "counterpoise", "coax centre", "counterpoise"),
    ]
