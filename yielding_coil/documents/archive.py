"""What an archive says is in it: builds with all that belongs to them, the drawer, calibrations. Version 1.

Ids are those of the installation that wrote it; whoever reads it gives new ones. The JSON Schema is published as
docs/archive.schema.json, the sentences as docs/archive.md.
"""

from collections.abc import Callable, Mapping
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from yielding_coil.core.errors import UnreadableError
from yielding_coil.documents.band import OwnBands
from yielding_coil.documents.design import DesignContent, TargetPayload, read_content
from yielding_coil.documents.fields import Counted, Hertz, Words
from yielding_coil.documents.log import EntryData, WirePlan
from yielding_coil.documents.setup import Conditions, LineIn, Plane

FORMAT = "yielding-coil-archive"
VERSION = 1

Name = Annotated[Words, Field(min_length=1, max_length=255)]
Sum = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$", description="SHA-256 of the part's bytes")]
PartName = Annotated[str, Field(min_length=1, max_length=120, description="name of a part of the ZIP")]
At = AwareDatetime


class Kept(BaseModel):
    """A thing in the archive: nothing unknown in it."""

    model_config = ConfigDict(extra="forbid")


class FilePart(Kept):
    """A part of the ZIP, and what it must be."""

    part: PartName
    sha256: Sum
    # As it was called where it came from.
    name: Name


class SetupKept(Kept):
    """Where and how sweeps were taken."""

    id: UUID
    plane: Plane = "feedpoint"
    line: LineIn | None = None
    conditions: Conditions = Conditions()
    instrument: Annotated[Words, Field(max_length=120)] = ""


class SweepKept(Kept):
    """A sweep: the file it came in, to the byte, and what was read from it, to the bit."""

    id: UUID
    setup_id: UUID | None = None
    calibration_id: UUID | None = None
    name: Name
    source: Literal["file", "typed", "analyser", "dial", "simulated"] = "file"
    carries: Literal["impedance", "swr"] = "impedance"
    swept_at: At
    reference_ohm: Annotated[float, Field(gt=0, le=1e6)] = 50.0
    remarks: Annotated[list[str], Field(max_length=100)] = []
    # Touchstone where it carries an impedance, else a table of Hz and SWR.
    data: FilePart
    # Left out: what came in is `data` itself.
    original: FilePart | None = None
    # Variances of the two parts of Γ and their covariance a point, where they are known.
    doubt: FilePart | None = None
    binned_at: At | None = None


class StateKept(Kept):
    """A state of a design."""

    number: Annotated[int, Field(ge=1, le=2**31 - 1)]
    label: Annotated[Words, Field(max_length=120)] = ""
    content: Annotated[DesignContent, BeforeValidator(lambda found: _content(found))]
    summary: dict[str, float | None] = {}
    undo_number: Counted | None = None
    redo_number: Counted | None = None
    made_at: At


def _content(found: Any) -> Any:
    """Of any earlier version as the newest has it."""
    if not isinstance(found, dict):
        return found
    if type(found.get("version", 1)) is not int:
        raise ValueError("version must be a whole number")
    return read_content(found)


class TickKept(Kept):
    """A step of a build sheet that was ticked, or noted something at."""

    number: Counted
    step: Annotated[Words, Field(min_length=1, max_length=80)]
    done: bool
    note: Annotated[Words, Field(max_length=2000)] = ""
    ticked_at: At | None = None


class DesignKept(Kept):
    """A design with every state it was in, and its ticks."""

    id: UUID
    name: Annotated[Words, Field(min_length=1, max_length=120)]
    made_at: At
    states: Annotated[list[StateKept], Field(min_length=1, max_length=100_000)]
    ticks: Annotated[list[TickKept], Field(max_length=10_000)] = []
    binned_at: At | None = None


class PhotographKept(Kept):
    """A photograph at an entry."""

    file: FilePart
    binned_at: At | None = None


class EntryKept(Kept):
    """An entry of the log, with its photographs."""

    id: UUID
    number: Counted
    happened_at: At
    utc_offset_min: Annotated[int, Field(ge=-900, le=900)] = 0
    text: Annotated[Words, Field(max_length=2000)] = ""
    data: EntryData
    setup_id: UUID | None = None
    sweep_id: UUID | None = None
    photographs: Annotated[list[PhotographKept], Field(max_length=1000)] = []
    binned_at: At | None = None


class BuildKept(Kept):
    """A build with all that belongs to it."""

    id: UUID
    name: Annotated[Words, Field(min_length=1, max_length=120)]
    power_w: Annotated[float, Field(gt=0, le=1e5)] = 100.0
    mode: Literal["speech", "telegraphy", "digital"] = "speech"
    notes: Annotated[str, Field(max_length=10_000)] = ""
    targets: Annotated[list[TargetPayload], Field(min_length=1, max_length=12)]
    wire: WirePlan | None = None
    made_at: At
    demo: bool = False
    baseline_sweep_id: UUID | None = None
    chosen_design_id: UUID | None = None
    setups: Annotated[list[SetupKept], Field(max_length=100_000)] = []
    sweeps: Annotated[list[SweepKept], Field(max_length=20_000)] = []
    designs: Annotated[list[DesignKept], Field(max_length=10_000)] = []
    entries: Annotated[list[EntryKept], Field(max_length=100_000)] = []
    binned_at: At | None = None


class PieceKept(Kept):
    """A piece of the drawer."""

    id: UUID
    kind: Literal["core", "material", "wire", "cable", "capacitor", "coil", "trap", "former", "box"]
    name: Annotated[Words, Field(min_length=1, max_length=120)]
    count: Annotated[int, Field(ge=0, le=100_000)] | None = None
    price: Annotated[Words, Field(max_length=40)] = ""
    nominal_key: Annotated[Words, Field(max_length=40)] | None = None
    values: dict[str, Any]
    sweep_id: UUID | None = None
    binned_at: At | None = None


class TakenKept(Kept):
    """When a standard was swept, in how many passes, and their noise."""

    at: At
    passes: Annotated[int, Field(ge=1, le=100_000)]
    noise_rms: Annotated[float, Field(ge=0, le=100)]


class CheckedKept(BaseModel):
    """What the load still showed afterwards."""

    model_config = ConfigDict(extra="allow")

    residual_db: float
    rms: Annotated[float, Field(ge=0, le=100)]


class CalibrationKept(Kept):
    """A calibration: raw reflections of its standards as tables of Hz, real and imaginary."""

    id: UUID
    name: Annotated[Words, Field(min_length=1, max_length=120)]
    plane: Annotated[Words, Field(max_length=120)] = ""
    instrument: Annotated[Words, Field(max_length=120)] = ""
    made_at: At
    low_hz: Hertz
    high_hz: Hertz
    points: Annotated[int, Field(ge=2, le=2001)]
    kit: dict[Annotated[str, Field(max_length=40)], float]
    taken: dict[Literal["short", "open", "load"], TakenKept] = {}
    checked: CheckedKept | None = None
    short: FilePart | None = None
    open: FilePart | None = None
    load: FilePart | None = None
    binned_at: At | None = None


class SettingsKept(Kept):
    """How the installation that wrote a backup liked to be spoken to."""

    units: Literal["m", "ft"] = "m"
    region: Literal[1, 2, 3] = 1
    bands: OwnBands = {}


class Archive(Kept):
    """The contents of an archive. `settings` is there in a backup of everything alone."""

    format: Literal["yielding-coil-archive"]
    version: Literal[1]
    made_at: At
    application: Annotated[str, Field(max_length=40)] = ""
    builds: Annotated[list[BuildKept], Field(max_length=10_000)] = []
    # Sweeps of no build: what proves a piece, what was swept on the bench.
    bench_setups: Annotated[list[SetupKept], Field(max_length=100_000)] = []
    bench_sweeps: Annotated[list[SweepKept], Field(max_length=20_000)] = []
    pieces: Annotated[list[PieceKept], Field(max_length=100_000)] = []
    calibrations: Annotated[list[CalibrationKept], Field(max_length=10_000)] = []
    settings: SettingsKept | None = None


# From an earlier version to the next, by the version that it takes; none so far.
UPGRADES: Mapping[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def read_archive(kept: Any) -> Archive:
    """The contents of an archive of this version or of any earlier one.

    Raises:
        UnreadableError: something else, of a later version, or not as the schema has it; the message says where.
    """
    if not isinstance(kept, dict) or kept.get("format") != FORMAT:
        raise UnreadableError(f"archive.json does not say that it is one: its format must be “{FORMAT}”")
    version = kept.get("version")
    if type(version) is not int or version < 1:
        raise UnreadableError(f"archive.json has no version; {VERSION} is the newest", field="version")
    if version > VERSION:
        raise UnreadableError(
            f"the archive is of version {version}, made by a later Yielding Coil; this one reads up to {VERSION}: "
            "update it, then take the archive in",
            field="version",
            came_in=str(version),
        )
    while version < VERSION:
        kept, version = UPGRADES[version](kept), version + 1
    try:
        return Archive.model_validate(kept)
    except ValidationError as why:
        first = why.errors(include_url=False)[0]
        where = ".".join(str(step) for step in first["loc"])
        raise UnreadableError(f"archive.json, {where}: {first['msg']}", field=where[:200]) from why


def schema() -> dict[str, Any]:
    """As JSON Schema, draft 2020-12."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **Archive.model_json_schema(mode="validation"),
    }
