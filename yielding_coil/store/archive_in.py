"""An archive as it comes in: everything looked at first, then kept in one transaction, under new ids."""

import json
import math
import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID, uuid4

import numpy as np
from pydantic import ValidationError
from sqlalchemy.orm import Session

from yielding_coil.core.calibration import Kit
from yielding_coil.core.errors import RefusedError, UnreadableError
from yielding_coil.core.sweep import ReflectionUncertainty, Sweep, SwrSweep
from yielding_coil.documents.archive import (
    Archive,
    BuildKept,
    CalibrationKept,
    DesignKept,
    EntryKept,
    FilePart,
    PieceKept,
    SetupKept,
    SweepKept,
    read_archive,
)
from yielding_coil.documents.log import replay
from yielding_coil.documents.piece import AnyPiece, require_known
from yielding_coil.formats import touchstone
from yielding_coil.formats.archive import CONTENTS, ArchiveReader, sum_of
from yielding_coil.formats.rows import read_rows
from yielding_coil.store import builds as build_queries
from yielding_coil.store.photographs import keep_photograph
from yielding_coil.store.pieces import ANY_PIECE, columns_of, piece_of, pieces
from yielding_coil.store.sweeps import keep_sweep
from yielding_coil.store.tables import Build, Calibration, Design, DesignRevision, Entry, Piece, Setup, Tick

Progress = Callable[[int, int], None]
_UUID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
DEEPEST = 60


def contents_of(reader: ArchiveReader) -> Archive:
    """What an archive says is in it; refused where it says what cannot be.

    Raises:
        UnreadableError: no JSON, numbers or words that nothing keeps, or not as the schema has it.
    """
    try:
        found = json.loads(reader.read(CONTENTS).decode(), parse_float=_finite, parse_constant=_finite)
    except (ValueError, RecursionError) as why:
        raise UnreadableError(f"{CONTENTS} is no JSON that can be read ({why})") from why
    _require_plain(found, 0)
    contents = read_archive(found)
    _require_whole(contents, reader)
    return contents


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise ValueError(f"{text} is no finite number")
    return value


def _require_plain(found: Any, depth: int) -> None:
    """No depths without end, no characters that no database keeps."""
    if depth > DEEPEST:
        raise UnreadableError(f"{CONTENTS} is nested deeper than {DEEPEST} levels")
    if isinstance(found, str):
        if "\0" in found or any(0xD800 <= ord(c) <= 0xDFFF for c in found):
            raise UnreadableError(f"{CONTENTS} holds characters that are none")
    elif isinstance(found, dict):
        for key, value in found.items():
            _require_plain(key, depth + 1)
            _require_plain(value, depth + 1)
    elif isinstance(found, list):
        for value in found:
            _require_plain(value, depth + 1)
    elif isinstance(found, int) and not isinstance(found, bool) and abs(found) > 2**62:
        raise UnreadableError(f"{CONTENTS} holds a whole number that is too large")


def _ids_of(contents: Archive) -> list[UUID]:
    """Of everything but pieces, which may be here already."""
    found = [t.id for t in (*contents.bench_setups, *contents.bench_sweeps, *contents.calibrations)]  # type: ignore[attr-defined]
    for build in contents.builds:
        own = (build, *build.setups, *build.sweeps, *build.designs, *build.entries)
        found += [t.id for t in own]  # type: ignore[attr-defined]
    return found


def _files(contents: Archive) -> list[FilePart]:
    sweeps = [*(s for b in contents.builds for s in b.sweeps), *contents.bench_sweeps]
    found = [f for s in sweeps for f in (s.data, s.original, s.doubt) if f is not None]
    found += [p.file for b in contents.builds for e in b.entries for p in e.photographs]
    return found + [f for c in contents.calibrations for f in (c.short, c.open, c.load) if f is not None]


def _require_whole(contents: Archive, reader: ArchiveReader) -> None:
    """Every id once, every reference answered, every part named once, none that is not named."""
    _require_once((str(key) for key in (*_ids_of(contents), *(p.id for p in contents.pieces))), "id")
    named = [f.part for f in _files(contents)]
    _require_once(named, "part")
    for name in sorted(set(named) - reader.names):
        raise UnreadableError(f"the part {name} is named and not there; take the archive out again")
    for name in sorted(reader.names - set(named)):
        raise UnreadableError(f"the part {name} is there and {CONTENTS} does not name it")
    bench = {s.id for s in contents.bench_sweeps}
    calibrations = {c.id for c in contents.calibrations}
    _require_known(
        (p.sweep_id for p in contents.pieces), {s.id for b in contents.builds for s in b.sweeps} | bench, "sweep"
    )
    _require_known((s.setup_id for s in contents.bench_sweeps), {s.id for s in contents.bench_setups}, "setup")
    _require_known((s.calibration_id for s in contents.bench_sweeps), calibrations, "calibration")
    for build in contents.builds:
        _require_build(build, bench, calibrations)


def _require_build(build: BuildKept, bench: set[UUID], calibrations: set[UUID]) -> None:
    setups, own = {s.id for s in build.setups}, {s.id for s in build.sweeps}
    _require_known((s.setup_id for s in build.sweeps), setups, "setup")
    _require_known((e.setup_id for e in build.entries), setups, "setup")
    _require_known((s.calibration_id for s in build.sweeps), calibrations, "calibration")
    _require_known((e.sweep_id for e in build.entries), own | bench, "sweep")
    _require_known([build.baseline_sweep_id], own, "sweep")
    _require_known([build.chosen_design_id], {d.id for d in build.designs}, "design")
    for design in build.designs:
        numbers = {s.number for s in design.states}
        _require_once((str(s.number) for s in design.states), "number of a state")
        _require_known((n for s in design.states for n in (s.undo_number, s.redo_number)), numbers, "state")
        _require_known((t.number for t in design.ticks), numbers, "state")
        _require_once((f"{t.number} {t.step}" for t in design.ticks), "tick")
        antennas = (s.content.antenna for s in design.states)
        _require_known((a.sweep_id for a in antennas if a.kind == "sweep"), own | bench, "sweep")
    _require_once((str(e.number) for e in build.entries), "number of an entry")
    told = sorted((e for e in build.entries if e.binned_at is None), key=lambda e: e.number)
    try:
        replay([e.data for e in told])
        if build.wire is not None:
            build.wire.require_hangs()
    except RefusedError as why:
        raise UnreadableError(f"the log of “{build.name}” cannot have been: {why}") from why


def _require_once(found: Iterable[str], what: str) -> None:
    seen: set[str] = set()
    for each in found:
        if each in seen:
            raise UnreadableError(f"the {what} {each} is there twice")
        seen.add(each)


def _require_known(asked: Iterable[Any], known: set[Any], what: str) -> None:
    for each in asked:
        if each is not None and each not in known:
            raise UnreadableError(f"the {what} {each} is referred to and not there")


@dataclass(slots=True)
class _Incoming:
    """An archive on its way in: new ids by the old ones, and how much was read."""

    session: Session
    reader: ArchiveReader
    told: Progress
    ids: dict[str, UUID] = field(default_factory=dict)
    done: int = 0
    # A backup comes back as it was; of anything else what was invented there is one's own here.
    restores: bool = False

    def read(self, part: FilePart) -> bytes:
        """A part, whose sum must be what it says."""
        data = self.reader.read(part.part)
        if sum_of(data) != part.sha256:
            raise UnreadableError(f"the part {part.part} is not what it was (its sum differs); take it out again")
        self.done += len(data)
        self.told(self.done, max(self.reader.unpacked_bytes, self.done))
        return data

    def new(self, old: UUID) -> UUID:
        """The id that stands for an old one here."""
        return self.ids.setdefault(str(old), uuid4())

    def known(self, old: UUID | None) -> UUID | None:
        """The same of a reference."""
        return None if old is None else self.ids.get(str(old))

    def renamed(self, payload: Any) -> Any:
        """A payload with new ids in place of the old ones, wherever they stand in it."""

        def one(match: re.Match[str]) -> str:
            found = self.ids.get(match.group())
            return match.group() if found is None else str(found)

        if isinstance(payload, str):
            return _UUID.sub(one, payload)
        if isinstance(payload, dict):
            return {key: self.renamed(value) for key, value in payload.items()}
        return [self.renamed(each) for each in payload] if isinstance(payload, list) else payload


def take_in(
    session: Session,
    reader: ArchiveReader,
    contents: Archive,
    told: Progress = lambda done, of: None,
    *,
    settings: bool = False,
) -> list[Build]:
    """Keep everything of an archive as something new; a piece that lies in the drawer already is not laid in again.

    Args:
        told: called with how many bytes are read, and how many there are.
        settings: whether units, region and bands of the archive count from now on.

    Returns:
        The new builds, in the order of the archive.

    Raises:
        UnreadableError: a part that is not what it says; nothing is kept then, the caller's transaction ends.
    """
    incoming = _Incoming(session, reader, told, restores=settings)
    for key in _ids_of(contents):
        incoming.new(key)
    _take_pieces(incoming, contents.pieces)
    for calibration in contents.calibrations:
        _take_calibration(incoming, calibration)
    for setup in contents.bench_setups:
        _take_setup(incoming, setup, None)
    for sweep in contents.bench_sweeps:
        _take_sweep(incoming, sweep, None)
    made = [_take_build(incoming, build) for build in contents.builds]
    _link_pieces(incoming, contents.pieces)
    if settings and contents.settings is not None:
        row, told_of = build_queries.settings(session), contents.settings
        row.units, row.region, row.demo_laid_in = told_of.units, told_of.region, True
        row.bands = {key: band.model_dump(mode="json") for key, band in told_of.bands.items()}
    session.flush()
    told(reader.unpacked_bytes, reader.unpacked_bytes)
    return made


def _as_piece(kept: PieceKept) -> AnyPiece:
    said = kept.model_dump(include={"kind", "name", "count", "price", "nominal_key", "values"})
    try:
        found: AnyPiece = ANY_PIECE.validate_python(said)
        require_known(found)
    except (ValidationError, RefusedError) as why:
        raise UnreadableError(f"the piece “{kept.name}” is none that the drawer holds ({_first(why)})") from why
    return found


def _first(why: ValidationError | RefusedError) -> str:
    if isinstance(why, RefusedError):
        return str(why)
    return str(why.errors(include_url=False)[0]["msg"])


def _take_pieces(incoming: _Incoming, kept: list[PieceKept]) -> None:
    """Pieces first: designs and setups refer to them. One with the same name and values here is the same piece."""
    here = {_likeness(piece_of(row)): row.id for row in pieces(incoming.session)}
    for each in kept:
        piece = _as_piece(each)
        known = here.get(_likeness(piece)) if each.binned_at is None else None
        if known is not None:
            incoming.ids[str(each.id)] = known
            continue
        row = Piece(**columns_of(piece), deleted_at=each.binned_at)
        row.id = incoming.new(each.id)
        incoming.session.add(row)
        here[_likeness(piece)] = row.id
    incoming.session.flush()


def _likeness(piece: AnyPiece) -> str:
    return json.dumps(piece.model_dump(mode="json", include={"kind", "name", "values"}), sort_keys=True)


def _link_pieces(incoming: _Incoming, kept: list[PieceKept]) -> None:
    """The sweeps that prove them, once those are there."""
    for each in kept:
        row = incoming.session.get_one(Piece, incoming.new(each.id))
        if each.sweep_id is not None and row.sweep_id is None:
            row.sweep_id, row.provenance = incoming.known(each.sweep_id), "measured"


def _take_calibration(incoming: _Incoming, kept: CalibrationKept) -> None:
    try:
        Kit(**kept.kit)
    except (TypeError, ValueError, RefusedError) as why:
        raise UnreadableError(f"the kit of the calibration “{kept.name}” is none ({why})") from why
    if not kept.low_hz < kept.high_hz:
        raise UnreadableError(f"the calibration “{kept.name}” ends below where it begins")

    def raw(part: FilePart | None) -> bytes | None:
        if part is None:
            return None
        rows = read_rows(incoming.read(part), 3)
        if rows.shape[0] != kept.points:
            raise UnreadableError(
                f"the part {part.part} has {rows.shape[0]} rows, and {kept.points} points are said"
            )
        return (rows[:, 1] + 1j * rows[:, 2]).astype("<c16").tobytes()

    row = Calibration(
        id=incoming.new(kept.id),
        name=kept.name,
        plane=kept.plane,
        instrument=kept.instrument,
        made_at=kept.made_at,
        low_hz=kept.low_hz,
        high_hz=kept.high_hz,
        points=kept.points,
        kit=kept.kit,
        taken={name: each.model_dump(mode="json") for name, each in kept.taken.items()},
        checked=None if kept.checked is None else kept.checked.model_dump(mode="json"),
        short=raw(kept.short),
        open=raw(kept.open),
        load=raw(kept.load),
        deleted_at=kept.binned_at,
    )
    incoming.session.add(row)
    incoming.session.flush()


def _take_setup(incoming: _Incoming, kept: SetupKept, build_id: UUID | None) -> None:
    line = None if kept.line is None else incoming.renamed(kept.line.model_dump(mode="json"))
    row = Setup(
        id=incoming.new(kept.id),
        build_id=build_id,
        plane=kept.plane,
        line=line,
        conditions=kept.conditions.model_dump(mode="json"),
        instrument=kept.instrument,
    )
    incoming.session.add(row)
    incoming.session.flush()


def _take_sweep(incoming: _Incoming, kept: SweepKept, build_id: UUID | None) -> None:
    data = incoming.read(kept.data)
    original = data if kept.original is None else incoming.read(kept.original)
    called = (kept.original or kept.data).name
    found: Sweep | SwrSweep
    try:
        if kept.carries == "impedance":
            found = touchstone.read_file(data, highest_reflection=math.inf).sweep
        else:
            rows = read_rows(data, 2)
            found = SwrSweep(rows[:, 0].copy(), rows[:, 1].copy())
    except RefusedError as why:
        raise UnreadableError(f"the part {kept.data.part} is no sweep: {why}") from why
    row = keep_sweep(
        incoming.session,
        found,
        original=original,
        original_name=called,
        reference_ohm=kept.reference_ohm,
        source=kept.source,
        build_id=build_id,
        setup_id=incoming.known(kept.setup_id),
        remarks=kept.remarks,
        calibration_id=incoming.known(kept.calibration_id),
        doubt=_doubt(incoming, kept, found.frequency_hz.size),
        sweep_id=incoming.new(kept.id),
    )
    row.name, row.swept_at, row.deleted_at = kept.name, kept.swept_at, kept.binned_at
    incoming.session.flush()
    # A backup holds gigabytes of them: what is kept need not stay in memory.
    incoming.session.expunge(row)


def _doubt(incoming: _Incoming, kept: SweepKept, points: int) -> ReflectionUncertainty | None:
    if kept.doubt is None:
        return None
    rows = read_rows(incoming.read(kept.doubt), 3)
    if rows.shape[0] != points or (rows[:, :2] < 0).any():
        raise UnreadableError(f"the part {kept.doubt.part} does not fit its sweep")
    return ReflectionUncertainty.of(np.ascontiguousarray(rows).reshape(-1))


def _take_build(incoming: _Incoming, kept: BuildKept) -> Build:
    session = incoming.session
    row = Build(
        id=incoming.new(kept.id),
        name=kept.name,
        power_w=kept.power_w,
        mode=kept.mode,
        notes=kept.notes,
        targets=[t.model_dump(mode="json") for t in kept.targets],
        wire=None if kept.wire is None else kept.wire.model_dump(mode="json"),
        demo=kept.demo and incoming.restores,
        made_at=kept.made_at,
        deleted_at=kept.binned_at,
    )
    session.add(row)
    session.flush()
    for setup in kept.setups:
        _take_setup(incoming, setup, row.id)
    for sweep in kept.sweeps:
        _take_sweep(incoming, sweep, row.id)
    for design in kept.designs:
        _take_design(incoming, design, row.id)
    for entry in kept.entries:
        _take_entry(incoming, entry, row.id)
    row.baseline_sweep_id = incoming.known(kept.baseline_sweep_id)
    row.chosen_design_id = incoming.known(kept.chosen_design_id)
    session.flush()
    session.refresh(row)
    return row


def _take_design(incoming: _Incoming, kept: DesignKept, build_id: UUID) -> None:
    session, key = incoming.session, incoming.new(kept.id)
    session.add(Design(id=key, build_id=build_id, name=kept.name, made_at=kept.made_at, deleted_at=kept.binned_at))
    session.flush()
    for state in kept.states:
        row = DesignRevision(
            design_id=key,
            number=state.number,
            label=state.label,
            content=incoming.renamed(state.content.model_dump(mode="json")),
            summary=state.summary,
            undo_number=state.undo_number,
            redo_number=state.redo_number,
            made_at=state.made_at,
        )
        session.add(row)
    for tick in kept.ticks:
        session.add(Tick(design_id=key, **tick.model_dump()))
    session.flush()


def _take_entry(incoming: _Incoming, kept: EntryKept, build_id: UUID) -> None:
    session = incoming.session
    row = Entry(
        id=incoming.new(kept.id),
        build_id=build_id,
        number=kept.number,
        kind=kept.data.kind,
        happened_at=kept.happened_at,
        utc_offset_min=kept.utc_offset_min,
        text=kept.text,
        data=incoming.renamed(kept.data.model_dump(mode="json")),
        setup_id=incoming.known(kept.setup_id),
        sweep_id=incoming.known(kept.sweep_id),
        deleted_at=kept.binned_at,
    )
    session.add(row)
    session.flush()
    for picture in kept.photographs:
        data = incoming.read(picture.file)
        try:
            kept_as = keep_photograph(session, row.id, picture.file.name, data, to_its_end=False)
        except RefusedError as why:
            raise UnreadableError(f"the part {picture.file.part} is no photograph: {why}") from why
        kept_as.deleted_at = picture.binned_at
        session.flush()
        session.expunge(kept_as)


def sizes(contents: Archive) -> Mapping[str, int]:
    """How much is in an archive, to be told."""
    return {
        "builds": len(contents.builds),
        "sweeps": sum(len(b.sweeps) for b in contents.builds) + len(contents.bench_sweeps),
        "designs": sum(len(b.designs) for b in contents.builds),
        "entries": sum(len(b.entries) for b in contents.builds),
        "photographs": sum(len(e.photographs) for b in contents.builds for e in b.entries),
        "pieces": len(contents.pieces),
        "calibrations": len(contents.calibrations),
    }
