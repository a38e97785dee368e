"""The drawer: trade data with their doubts, one's own pieces, capacitors combined, and the table in and out."""

from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import Depends
from pydantic import BaseModel, Field, TypeAdapter, ValidationError
from starlette.responses import Response

from yielding_coil import data
from yielding_coil.api.http import InTransaction, body_up_to, router_of
from yielding_coil.api.tables import CableOut, WireOut, cable_out
from yielding_coil.core.errors import NotFoundError, UnreadableError
from yielding_coil.core.matching import CapacitorKind, Combination, cheapest_sold, combinations
from yielding_coil.core.ring import Ring
from yielding_coil.documents.fields import Counted, Farad, NotNegative
from yielding_coil.documents.piece import AnyPiece, CapacitorPiece, require_known, stock_of
from yielding_coil.formats import pieces as table
from yielding_coil.store import pieces as queries
from yielding_coil.store.designs import designs_that_use
from yielding_coil.store.revised import edit
from yielding_coil.store.sweeps import one_sweep
from yielding_coil.store.tables import Piece

router = router_of("drawer")

MOST_BYTES = 2 * 1024 * 1024
MOST_SHOWN = 6
# Kinds that are proposed where power goes, the usual one first.
SOLD = ("mica", "np0")

_ANY: TypeAdapter[AnyPiece] = TypeAdapter(AnyPiece)


class PieceOut(BaseModel):
    """A piece of the drawer; `key` names it where a key of a table may stand too."""

    id: UUID
    revision: Counted
    key: str
    provenance: Literal["nominal", "entered", "measured"]
    held: AnyPiece
    # How many designs hold it as it is or was.
    used: int


class PieceEdit(BaseModel):
    """Another state of a piece, and of which revision."""

    revision: Counted
    held: AnyPiece


class SizeOut(BaseModel):
    """A trade size of rings; `mixes` are those it is sold in, by its family."""

    size: str
    outer_m: float
    inner_m: float
    height_m: float
    doubtful: bool
    kind: Literal["ferrite", "powder"]
    # Inductance factor of one ring by mix, henry a turn squared: the trade's for powder where known, else computed.
    al_h: dict[str, float]


class MixOut(BaseModel):
    """A ring material with what is known of it, and how well."""

    mix: str
    kind: Literal["ferrite", "powder"]
    family: str
    initial_permeability: float
    tolerance: float
    lowest_hz: float | None
    highest_hz: float | None
    curie_c: float | None
    loss_known: bool
    note: str


class KindOut(BaseModel):
    """A kind of capacitor."""

    key: str
    name: str
    tolerance: float
    q: float
    voltages_v: list[float]
    note: str


class FormerOut(BaseModel):
    """A tube to wind on."""

    key: str
    name: str
    outer_m: float
    length_m: float
    source: str


class BoxOut(BaseModel):
    """A box or a tube, inside."""

    key: str
    name: str
    width_m: float
    height_m: float
    depth_m: float
    round: bool
    source: str


class TradeOut(BaseModel):
    """What the trade sells, nominal, with where it is from."""

    sizes: list[SizeOut]
    mixes: list[MixOut]
    rings_source: str
    wires: list[WireOut]
    cables: list[CableOut]
    capacitors: list[KindOut]
    formers: list[FormerOut]
    boxes: list[BoxOut]


class StockOut(BaseModel):
    """One capacitor of a combination; `held` says that it lies in the drawer."""

    name: str
    capacitance_f: float
    tolerance: float
    voltage_v: float
    held: bool


class CombinationOut(BaseModel):
    """What one or two capacitors make together."""

    parts: list[StockOut]
    way: Literal["alone", "series", "parallel"]
    capacitance_f: float
    error: float
    tolerance: float
    voltage_v: float
    q: float


class CombinationsIn(BaseModel):
    """A capacitor that is wanted: its value and the peak voltage it must stand."""

    capacitance_f: Farad
    voltage_v: NotNegative = 0.0
    within: Annotated[float, Field(gt=0, le=0.5)] = 0.1


class CombinationsOut(BaseModel):
    """From the drawer, nearest first; and from what is sold, silver mica of E24."""

    own: list[CombinationOut]
    sold: list[CombinationOut]


_table = body_up_to(MOST_BYTES, "the table is larger than 2 MiB; keep it to a drawer's worth")


def piece_out(row: Piece, used: int = 0) -> PieceOut:
    """As it travels."""
    return PieceOut(
        id=row.id,
        revision=row.revision,
        key=queries.cable_key(row),
        provenance=row.provenance,  # type: ignore[arg-type]
        held=queries.piece_of(row),
        used=used,
    )


@router.get("/drawer")
def trade() -> TradeOut:
    """Everything nominal: sizes, mixes, wires, cables, capacitors, formers, boxes."""
    materials = data.ring_materials().values()
    return TradeOut(
        sizes=[
            SizeOut(
                size=s.name,
                outer_m=s.outer_m,
                inner_m=s.inner_m,
                height_m=s.height_m,
                doubtful=s.doubtful,
                kind=kind,
                al_h={m.mix: Ring(m, s).one_al_h for m in materials if m.kind == kind},
            )
            for s in data.ring_sizes().values()
            for kind in (data.family_of(s),)
        ],
        mixes=[
            MixOut(
                mix=m.mix,
                kind=m.kind,
                family=m.family,
                initial_permeability=m.initial_permeability,
                tolerance=m.tolerance,
                lowest_hz=m.lowest_hz,
                highest_hz=m.highest_hz,
                curie_c=m.curie_c,
                loss_known=m.loss_known,
                note=m.note,
            )
            for m in materials
        ],
        rings_source=data.source_of("ring_materials"),
        wires=[WireOut.model_validate(r, from_attributes=True) for r in data.wires().values()],
        cables=[cable_out(r) for r in data.cables().values()],
        capacitors=[
            KindOut(
                key=c.key, name=c.name, tolerance=c.tolerance, q=c.q, voltages_v=list(c.voltages_v), note=c.note
            )
            for c in data.capacitors().values()
        ],
        formers=[FormerOut.model_validate(r, from_attributes=True) for r in data.formers().values()],
        boxes=[BoxOut.model_validate(r, from_attributes=True) for r in data.boxes().values()],
    )


@router.get("/pieces")
def pieces(
    session: InTransaction,
    kind: Literal["core", "material", "wire", "cable", "capacitor", "coil", "trap", "former", "box"] | None = None,
) -> list[PieceOut]:
    """One's own pieces, by kind and name."""
    used = designs_that_use(session)
    return [piece_out(row, used.get(row.id, 0)) for row in queries.pieces(session, kind)]


@router.post("/pieces", status_code=201)
def keep_piece(session: InTransaction, made: AnyPiece) -> PieceOut:
    """Put a piece into the drawer; it can be chosen wherever its kind can."""
    require_known(made)
    if made.sweep_id is not None:
        one_sweep(session, made.sweep_id)
    return piece_out(queries.keep_piece(session, made))


@router.patch("/pieces/{piece_id}")
def change_piece(session: InTransaction, piece_id: UUID, edited: PieceEdit) -> PieceOut:
    """Change a piece; designs that use it keep what it was until they take the new value."""
    row = queries.one_piece(session, piece_id)
    require_known(edited.held)
    edit(
        session,
        row,
        edited.revision,
        queries.columns_of(edited.held),
        lambda: piece_out(row),
    )
    return piece_out(row)


@router.delete("/pieces/{piece_id}", status_code=204)
def bin_one_piece(session: InTransaction, piece_id: UUID, revision: Counted) -> None:
    """Put a piece in the bin; designs that use it keep what it was."""
    row = queries.one_piece(session, piece_id)
    edit(session, row, revision, {}, lambda: piece_out(row))
    queries.bin_piece(row)


@router.post("/pieces/{piece_id}/restore")
def restore_piece(session: InTransaction, piece_id: UUID) -> PieceOut:
    """Take a piece out of the bin."""
    row = queries.one_piece(session, piece_id, deleted=True)
    row.deleted_at = None
    return piece_out(row)


@router.get("/drawer/table", response_class=Response)
def export_pieces(session: InTransaction) -> Response:
    """One's own pieces as comma-separated values."""
    held = [queries.piece_of(row) for row in queries.pieces(session)]
    rows = [piece.model_dump(mode="json") for piece in held]
    return Response(
        table.write(rows),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="drawer.csv"'},
    )


@router.post(
    "/drawer/table",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"text/csv": {"schema": {"type": "string", "format": "binary"}}}}},
)
def import_pieces(session: InTransaction, body: Annotated[bytes, Depends(_table)]) -> list[PieceOut]:
    """Put the pieces of a table into the drawer, but for those that lie there already, alike in everything.

    One that cannot be read keeps all of them out.
    """
    made = [_made(row) for row in table.read(body)]
    held = [_alike(queries.piece_of(row)) for row in queries.pieces(session)]
    new = [piece for piece in made if _alike(piece) not in held]
    return [piece_out(queries.keep_piece(session, piece)) for piece in new]


def _alike(piece: AnyPiece) -> dict[str, Any]:
    """What is the same of a piece once it went out as a table and came back."""
    return piece.model_dump(mode="json", exclude={"sweep_id": True, "values": {"material": {"id", "revision"}}})


def _made(row: table.PieceRow) -> AnyPiece:
    try:
        piece = _ANY.validate_python(row.piece)
        require_known(piece)
    except ValidationError as why:
        first = why.errors()[0]
        where = ".".join(str(part) for part in first["loc"] if part not in (row.piece["kind"], "values"))
        raise UnreadableError(f"{where}: {first['msg']}", line=row.line) from why
    except NotFoundError as why:
        raise UnreadableError(why.message, line=row.line, accepted=why.accepted) from why
    return piece


@router.post("/combinations")
def combined(session: InTransaction, asked: CombinationsIn) -> CombinationsOut:
    """What one or two capacitors make a value that stands a voltage."""
    held = [queries.piece_of(row) for row in queries.pieces(session, "capacitor")]
    own = [stock_of(piece) for piece in held if isinstance(piece, CapacitorPiece)]
    wanted = (asked.capacitance_f, asked.voltage_v, asked.within)
    rows = [data.capacitor(key) for key in SOLD]
    sold = cheapest_sold([CapacitorKind(r.name, r.tolerance, r.q, r.voltages_v) for r in rows], *wanted)
    return CombinationsOut(
        own=[_combination(c, asked.capacitance_f, held=True) for c in combinations(own, *wanted)[:MOST_SHOWN]],
        sold=[_combination(c, asked.capacitance_f, held=False) for c in sold[:MOST_SHOWN]],
    )


def _combination(found: Combination, wanted_f: float, *, held: bool) -> CombinationOut:
    return CombinationOut(
        parts=[
            StockOut(
                name=p.name, capacitance_f=p.capacitance_f, tolerance=p.tolerance, voltage_v=p.voltage_v, held=held
            )
            for p in found.parts
        ],
        way=found.way,
        capacitance_f=found.capacitance_f,
        error=found.capacitance_f / wanted_f - 1,
        tolerance=found.tolerance,
        voltage_v=found.voltage_v,
        q=found.q,
    )
