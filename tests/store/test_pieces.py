"""Queries on the drawer: kept, found by kind, binned, and how many designs use what."""

from uuid import uuid4

import pytest
from pydantic import TypeAdapter

from yielding_coil.core.errors import NotFoundError
from yielding_coil.documents.piece import AnyPiece, require_known, stock_of
from yielding_coil.store import pieces as queries
from yielding_coil.store.designs import bin_design, designs_that_use, make_design
from yielding_coil.store.tables import Build

ANY = TypeAdapter(AnyPiece)
RING = {"kind": "core", "name": "grey ring", "count": 2, "price": "6.50", "values": {"mix": "43", "size": "FT240"}}
MICA = {"kind": "capacitor", "name": "mica", "values": {"capacitance_f": 240e-12}}
TUBE = {"kind": "former", "name": "tube", "nominal_key": "conduit-25", "values": {"outer_m": 0.025, "length_m": 1}}


def keep(session, piece):
    return queries.keep_piece(session, ANY.validate_python(piece))


def design_with(session, *held):
    """A design whose elements hold these pieces, as a core or as a wire."""
    build = Build(name="b", power_w=100, mode="speech", targets=[])
    session.add(build)
    session.flush()
    elements = [
        {"kind": "transformer", "key": str(i), field: {"id": str(row.id)}} for i, (field, row) in enumerate(held)
    ]
    return make_design(session, build.id, "d", {"elements": elements}, {})


@pytest.mark.parametrize("piece", [RING, MICA, TUBE], ids=lambda p: p["kind"])
def test_a_piece_comes_back_as_it_was_kept(session, piece):
    row = keep(session, piece)

    assert queries.piece_of(row) == ANY.validate_python(piece)


@pytest.mark.parametrize(
    ("piece", "provenance"),
    [
        (RING, "entered"),
        (TUBE, "nominal"),
        ({**RING, "values": {**RING["values"], "al_h": 1.2e-6}}, "measured"),
    ],
)
def test_where_its_values_are_from(session, piece, provenance):
    assert keep(session, piece).provenance == provenance


def test_pieces_lie_by_kind_and_name_and_the_binned_apart(session):
    rows = [keep(session, p) for p in (TUBE, RING, MICA, {**RING, "name": "a ring"})]
    queries.bin_piece(rows[2])

    assert [r.name for r in queries.pieces(session)] == ["a ring", "grey ring", "tube"]
    assert [r.name for r in queries.pieces(session, "core")] == ["a ring", "grey ring"]
    assert [r.name for r in queries.pieces(session, binned=True)] == ["mica"]
    assert queries.own_cables(session) == []


def test_how_many_designs_use_a_piece_in_their_newest_state(session):
    ring, wire, unused = keep(session, RING), keep(session, {**RING, "name": "w"}), keep(session, MICA)
    design_with(session, ("piece", ring), ("wire_piece", wire))
    gone = design_with(session, ("piece", ring), ("piece", ring))

    used = designs_that_use(session)
    assert (used[ring.id], used[wire.id], used.get(unused.id)) == (2, 1, None)
    bin_design(gone)
    session.flush()
    assert designs_that_use(session)[ring.id] == 1


def test_what_is_not_there_says_so_and_whether_it_is_in_the_bin(session):
    row = keep(session, RING)
    queries.bin_piece(row)

    with pytest.raises(NotFoundError) as binned:
        queries.one_piece(session, row.id)
    assert binned.value.more["in_bin"] is True
    assert queries.one_piece(session, row.id, deleted=True) is row
    with pytest.raises(NotFoundError) as unknown:
        queries.one_piece(session, uuid4())
    assert unknown.value.more["in_bin"] is False


def test_rows_that_no_table_has_are_refused():
    with pytest.raises(NotFoundError, match="no size “barn”"):
        require_known(ANY.validate_python({**RING, "values": {"mix": "43", "size": "barn"}}))
    with pytest.raises(NotFoundError, match="no type “glass”"):
        require_known(ANY.validate_python({**MICA, "values": {"capacitance_f": 1e-10, "type": "glass"}}))


def test_a_capacitor_as_stock():
    stock = stock_of(ANY.validate_python({**MICA, "count": 2}))

    assert (stock.name, stock.capacitance_f, stock.count) == ("mica", 240e-12, 2)
