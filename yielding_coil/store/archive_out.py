"""Builds as they go out: what describes them, read at once; their files, read one by one as they are written."""

import re
from collections.abc import Callable, Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

import numpy as np
from sqlalchemy import Engine, func, or_, select
from sqlalchemy.orm import Session

from yielding_coil import VERSION as APPLICATION
from yielding_coil.core.calibration import STANDARDS
from yielding_coil.core.sweep import Sweep
from yielding_coil.documents.archive import (
    Archive,
    BuildKept,
    CalibrationKept,
    DesignKept,
    EntryKept,
    FilePart,
    Kept,
    PhotographKept,
    PieceKept,
    SettingsKept,
    SetupKept,
    StateKept,
    SweepKept,
    TickKept,
)
from yielding_coil.formats import touchstone
from yielding_coil.formats.archive import CONTENTS, ArchiveWriter, chunks, sum_of
from yielding_coil.formats.photograph import without_position
from yielding_coil.formats.rows import write_rows
from yielding_coil.store import builds as build_queries
from yielding_coil.store.calibrations import grid_of, raw_of
from yielding_coil.store.sweeps import doubt_of, sweep_of
from yielding_coil.store.tables import (
    Build,
    Calibration,
    Design,
    DesignRevision,
    Entry,
    Photograph,
    Piece,
    Setup,
    SweepRow,
    Tick,
)

# Not summed yet: the sum is known once its bytes are written.
_UNKNOWN = "0" * 64
_UUID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
Progress = Callable[[int, int], None]


@dataclass(slots=True)
class _Part:
    """A part to be written: what describes it, and where its bytes come from."""

    kept: FilePart
    bytes_of: Callable[[Session], bytes]
    press: bool


@dataclass(slots=True)
class Outgoing:
    """What goes out: its contents, its parts, and about how many bytes they are."""

    contents: Archive
    parts: list[_Part] = field(default_factory=list)
    about_bytes: int = 0
    # Sweeps of which it is known how sure they are.
    doubtful: frozenset[UUID] = frozenset()

    def add(
        self, name: str, called: str, bytes_of: Callable[[Session], bytes], *, press: bool, about: int
    ) -> FilePart:
        """One part more."""
        kept = FilePart(part=name, sha256=_UNKNOWN, name=called or "file")
        self.parts.append(_Part(kept, bytes_of, press))
        self.about_bytes += about
        return kept


def collect(session: Session, build_ids: Collection[UUID] | None, *, positions: bool) -> Outgoing:
    """What describes some builds, or everything: then the drawer, the bin, calibrations and settings go along.

    Args:
        build_ids: of builds; all that there is when None.
        positions: whether photographs keep where they were taken.

    Raises:
        NotFoundError: no such build, or it is in the bin.
    """
    everything = build_ids is None
    found = Outgoing(
        Archive(format="yielding-coil-archive", version=1, made_at=datetime.now(UTC), application=APPLICATION)
    )
    found.doubtful = frozenset(session.scalars(select(SweepRow.id).where(SweepRow.doubt.is_not(None))))
    contents = found.contents
    if build_ids is None:
        builds = list(session.scalars(select(Build).order_by(Build.made_at, Build.name, Build.id)))
    else:
        builds = [build_queries.one_build(session, each) for each in build_ids]
    for build in builds:
        contents.builds.append(_build(session, build, found, everything, positions))
    own = {s.id for b in contents.builds for s in b.sweeps}
    named = _named_in(contents.builds)
    rows = _bench(session, named - own, everything)
    setups = _setups(session, rows)
    named |= _named_in(setups)
    kept = session.scalars(select(Piece).order_by(Piece.kind, Piece.name, Piece.id))
    contents.pieces = [_piece(p) for p in kept if everything or p.id in named]
    # What proves a piece goes along, for whatever build it was swept.
    proofs = {p.sweep_id for p in contents.pieces if p.sweep_id} - own - {s.id for s in rows}
    rows += _bench(session, proofs, False)
    contents.bench_sweeps = [_sweep(s, found) for s in rows]
    contents.bench_setups = _setups(session, rows)
    swept = [s for b in contents.builds for s in b.sweeps] + contents.bench_sweeps
    by = {s.calibration_id for s in swept if s.calibration_id}
    corrected = session.scalars(select(Calibration).order_by(Calibration.made_at, Calibration.name, Calibration.id))
    contents.calibrations = [_calibration(c, found) for c in corrected if everything or c.id in by]
    if everything:
        row = build_queries.settings(session)
        contents.settings = SettingsKept(units=row.units, region=row.region, bands=row.bands)  # type: ignore[arg-type]
    return found


def _named_in(things: Sequence[Kept]) -> set[UUID]:
    """Every id that stands anywhere in them."""
    return {UUID(each) for thing in things for each in _UUID.findall(thing.model_dump_json())}


def _bench(session: Session, ids: set[UUID], everything: bool) -> list[SweepRow]:
    """Sweeps under these ids; all that belong to no build as well, where everything goes out."""
    wanted = SweepRow.id.in_(ids)
    query = select(SweepRow).where(or_(wanted, SweepRow.build_id.is_(None)) if everything else wanted)
    return list(session.scalars(query.order_by(SweepRow.swept_at, SweepRow.name, SweepRow.id)))


def _setups(session: Session, rows: Sequence[SweepRow]) -> list[SetupKept]:
    ids = {s.setup_id for s in rows if s.setup_id}
    return _in_order(session.scalars(select(Setup).where(Setup.id.in_(ids))), rows)


def _in_order(setups: Iterable[Setup], users: Iterable[SweepRow | Entry]) -> list[SetupKept]:
    """Setups as their sweeps and readings come: their ids are new wherever they are restored, and order nothing."""
    first = {key: -at for at, key in enumerate(reversed([user.setup_id for user in users]))}
    kept = [_setup(row) for row in setups]
    return sorted(kept, key=lambda each: (first.get(each.id, 1), each.model_dump_json(exclude={"id"}), each.id))


def _build(session: Session, build: Build, found: Outgoing, everything: bool, positions: bool) -> BuildKept:
    """A build; what of it lies in the bin stays here, unless everything goes out or something kept hangs on it."""

    def rows(kind: Any, *order: Any) -> Sequence[Any]:
        return session.scalars(select(kind).where(kind.build_id == build.id).order_by(*order)).all()

    designs = [
        d for d in rows(Design, Design.made_at, Design.name, Design.id) if everything or d.deleted_at is None
    ]
    entries = [e for e in rows(Entry, Entry.number) if everything or e.deleted_at is None]
    kept = [_design(session, d) for d in designs]
    told = [_entry(session, e, found, everything, positions) for e in entries]
    hung_on = {build.baseline_sweep_id, *_named_in([*kept, *told])}
    sweeps = [
        s
        for s in rows(SweepRow, SweepRow.swept_at, SweepRow.name, SweepRow.id)
        if everything or s.deleted_at is None or s.id in hung_on
    ]
    return BuildKept(
        id=build.id,
        name=build.name,
        power_w=build.power_w,
        mode=build.mode,  # type: ignore[arg-type]
        notes=build.notes,
        targets=build.targets,  # type: ignore[arg-type]
        wire=build.wire,  # type: ignore[arg-type]
        made_at=build.made_at,
        demo=build.demo,
        baseline_sweep_id=build.baseline_sweep_id,
        chosen_design_id=build.chosen_design_id if any(d.id == build.chosen_design_id for d in designs) else None,
        setups=_in_order(rows(Setup), [*sweeps, *entries]),
        sweeps=[_sweep(s, found) for s in sweeps],
        designs=kept,
        entries=told,
        binned_at=build.deleted_at,
    )


def _setup(row: Setup) -> SetupKept:
    return SetupKept(
        id=row.id,
        plane=row.plane,  # type: ignore[arg-type]
        line=row.line,  # type: ignore[arg-type]
        conditions=row.conditions,  # type: ignore[arg-type]
        instrument=row.instrument,
    )


def _sweep(row: SweepRow, found: Outgoing) -> SweepKept:
    key, impedance = row.id, row.carries == "impedance"

    def exact(session: Session) -> bytes:
        swept = sweep_of(session.get_one(SweepRow, key))
        if isinstance(swept, Sweep):
            return touchstone.write_exact(swept)
        return write_rows(("Frequency (Hz)", "SWR"), np.column_stack([swept.frequency_hz, swept.swr]))

    def doubt(session: Session) -> bytes:
        known = doubt_of(session.get_one(SweepRow, key))
        assert known is not None
        columns = ("variance of the real part", "variance of the imaginary part", "covariance")
        return write_rows(columns, known.rows.reshape(-1, 3))

    about = 60 * row.points
    name = f"{row.name}.{'s1p' if impedance else 'csv'}"[-255:]
    data = found.add(f"sweeps/{key}.{'s1p' if impedance else 'csv'}", name, exact, press=True, about=about // 2)
    original = found.add(
        f"originals/{key}",
        row.original_name,
        lambda session: session.get_one(SweepRow, key).original,
        press=True,
        about=about // 2,
    )
    sure = None
    if key in found.doubtful:
        sure = found.add(f"sweeps/{key}.doubt.csv", "doubt.csv", doubt, press=True, about=about // 2)
    return SweepKept(
        id=key,
        setup_id=row.setup_id,
        calibration_id=row.calibration_id,
        name=row.name,
        source=row.source,  # type: ignore[arg-type]
        carries=row.carries,  # type: ignore[arg-type]
        swept_at=row.swept_at,
        reference_ohm=row.reference_ohm,
        remarks=row.remarks,
        data=data,
        original=original,
        doubt=sure,
        binned_at=row.deleted_at,
    )


def _design(session: Session, row: Design) -> DesignKept:
    states = session.scalars(
        select(DesignRevision).where(DesignRevision.design_id == row.id).order_by(DesignRevision.number)
    )
    ticks = session.scalars(select(Tick).where(Tick.design_id == row.id).order_by(Tick.number, Tick.step))
    return DesignKept(
        id=row.id,
        name=row.name,
        made_at=row.made_at,
        states=[
            StateKept(
                number=s.number,
                label=s.label,
                content=s.content,  # type: ignore[arg-type]
                summary=s.summary,
                undo_number=s.undo_number,
                redo_number=s.redo_number,
                made_at=s.made_at,
            )
            for s in states
        ],
        ticks=[
            TickKept(number=t.number, step=t.step, done=t.done, note=t.note, ticked_at=t.ticked_at)
            for t in ticks
            if t.revision > 0
        ],
        binned_at=row.deleted_at,
    )


def _entry(session: Session, row: Entry, found: Outgoing, everything: bool, positions: bool) -> EntryKept:
    pictures = session.scalars(
        select(Photograph).where(Photograph.entry_id == row.id).order_by(Photograph.name, Photograph.id)
    )
    return EntryKept(
        id=row.id,
        number=row.number,
        happened_at=row.happened_at,
        utc_offset_min=row.utc_offset_min,
        text=row.text,
        data=row.data,  # type: ignore[arg-type]
        setup_id=row.setup_id,
        sweep_id=row.sweep_id,
        photographs=[_photograph(p, found, positions) for p in pictures if everything or p.deleted_at is None],
        binned_at=row.deleted_at,
    )


def _photograph(row: Photograph, found: Outgoing, positions: bool) -> PhotographKept:
    key, cleaned = row.id, row.located and not positions

    def picture(session: Session) -> bytes:
        original = session.get_one(Photograph, key).original
        return without_position(original) if cleaned else original

    ending = "jpg" if row.kind == "jpeg" else "png"
    file = found.add(f"photographs/{key}.{ending}", row.name, picture, press=False, about=row.size)
    return PhotographKept(file=file, binned_at=row.deleted_at)


def _piece(row: Piece) -> PieceKept:
    return PieceKept(
        id=row.id,
        kind=row.kind,  # type: ignore[arg-type]
        name=row.name,
        count=row.count,
        price=row.price or "",
        nominal_key=row.nominal_key,
        values=row.values,
        sweep_id=row.sweep_id,
        binned_at=row.deleted_at,
    )


def _calibration(row: Calibration, found: Outgoing) -> CalibrationKept:
    key = row.id

    def raw(name: str) -> Callable[[Session], bytes]:
        def rows(session: Session) -> bytes:
            kept = session.get_one(Calibration, key)
            gamma = raw_of(kept)[name]  # type: ignore[index]
            return write_rows(
                ("Frequency (Hz)", "real", "imaginary"), np.column_stack([grid_of(kept), gamma.real, gamma.imag])
            )

        return rows

    taken = {
        name: found.add(
            f"calibrations/{key}.{name}.csv", f"{name}.csv", raw(name), press=True, about=30 * row.points
        )
        for name in STANDARDS
        if getattr(row, name) is not None
    }
    return CalibrationKept(
        id=key,
        name=row.name,
        plane=row.plane,
        instrument=row.instrument,
        made_at=row.made_at,
        low_hz=row.low_hz,
        high_hz=row.high_hz,
        points=row.points,
        kit=row.kit,
        taken=row.taken,  # type: ignore[arg-type]
        checked=row.checked,  # type: ignore[arg-type]
        binned_at=row.deleted_at,
        **taken,
    )


def written(engine: Engine, found: Outgoing, told: Progress = lambda done, of: None) -> Iterator[bytes]:
    """The file, piece by piece; each part is read in a transaction of its own, so that a slow taker holds none.

    Args:
        told: called with how many bytes are written, and about how many there will be.
    """
    writer, done = ArchiveWriter(), 0
    for part in found.parts:
        with Session(engine) as session:
            data = part.bytes_of(session)
        part.kept.sha256 = sum_of(data)
        ready = writer.part(part.kept.part, data, press=part.press)
        done += len(ready)
        told(done, max(found.about_bytes, done))
        yield from chunks(ready)
    contents = found.contents.model_dump_json(exclude_none=True).encode()
    ready = writer.part(CONTENTS, contents, press=True) + writer.end()
    told(done + len(ready), done + len(ready))
    yield from chunks(ready)


def number_of_builds(session: Session) -> int:
    """How many builds there are, those in the bin among them, the invented ones not."""
    return session.scalar(select(func.count()).select_from(Build).where(~Build.demo)) or 0
