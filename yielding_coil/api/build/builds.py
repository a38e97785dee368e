"""Builds, the shelf, and settings."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from yielding_coil.api.build.entries import EntryOut, entry_out
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.api.sweep import SweepOut, require_bare, sweep_out
from yielding_coil.core.design import few_hold
from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.target import require_inside
from yielding_coil.documents.band import OwnBands
from yielding_coil.documents.design import TargetPayload
from yielding_coil.documents.fields import Counted, Positive, Words
from yielding_coil.documents.log import WirePlan
from yielding_coil.store import builds as queries
from yielding_coil.store import designs as design_queries
from yielding_coil.store.entries import asked_to_look, binned_entries, kinds_of
from yielding_coil.store.photographs import binned_photographs
from yielding_coil.store.pieces import pieces
from yielding_coil.store.revised import edit
from yielding_coil.store.sweeps import claim_sweep, one_sweep, sweep_of
from yielding_coil.store.tables import Build, Design, Photograph, Piece, Settings, SweepRow

router = router_of("build")

Mode = Literal["speech", "telegraphy", "digital"]
Targets = Annotated[list[TargetPayload], Field(min_length=1, max_length=12)]
Name = Annotated[Words, Field(min_length=1, max_length=120)]
Power = Annotated[Positive, Field(le=1e5)]


class SettingsOut(BaseModel):
    """How this installation likes to be spoken to."""

    revision: Counted
    units: Literal["m", "ft"]
    region: Literal[1, 2, 3]
    bands: OwnBands


class SettingsPatch(BaseModel):
    """A change of settings, made on a revision; what is left out stays."""

    revision: Counted
    units: Literal["m", "ft"] | None = None
    region: Literal[1, 2, 3] | None = None
    bands: OwnBands | None = None


class BuildIn(BaseModel):
    """A new build; its targets are taken from the sweep when left out."""

    name: Name
    # None for a wire that is still to be cut: then with targets.
    sweep_id: UUID | None = None
    # Other sweeps of the same antenna that came with it.
    more_sweep_ids: Annotated[list[UUID], Field(max_length=64)] = []
    power_w: Power = 100.0
    mode: Mode = "speech"
    targets: Targets | None = None
    wire: WirePlan | None = None


class BuildPatch(BaseModel):
    """A change of a build, made on a revision; what is left out stays."""

    revision: Counted
    name: Name | None = None
    power_w: Power | None = None
    mode: Mode | None = None
    targets: Targets | None = None
    chosen_design_id: UUID | None = None
    baseline_sweep_id: UUID | None = None
    wire: WirePlan | None = None


class DuplicateIn(BaseModel):
    """The name of a copy."""

    name: Name


class BinnedOut(BaseModel):
    """One thing in the bin; of what belongs to a build with its name; of the log what it says."""

    kind: Literal["build", "sweep", "design", "piece", "photograph", "entry"]
    id: UUID
    name: str
    build: str | None
    binned_at: datetime
    entry: EntryOut | None = None


class BuildOut(BaseModel):
    """A build with its sweeps, and what its chosen design says."""

    id: UUID
    revision: Counted
    name: str
    power_w: float
    mode: Mode
    targets: list[TargetPayload]
    demo: bool
    made_at: datetime
    baseline_sweep_id: UUID | None
    chosen_design_id: UUID | None
    wire: WirePlan | None
    # How far the log is: entries, and whether the wire hangs.
    entries: int
    hung: bool
    # Somebody said that it is good enough.
    done: bool
    # When somebody asked to be reminded after a year, once that is over and nothing was swept meanwhile.
    look_again: datetime | None
    sweeps: list[SweepOut]
    worst_swr: float | None = None
    share: float | None = None
    # So few hold that it is not to be made as it stands.
    few_hold: bool = False
    # The bands that the chosen design serves: all of the build's, or those that it has taken of them.
    served: list[str] = []


def _targets(row: Build) -> list[TargetPayload]:
    return [TargetPayload.model_validate(t) for t in row.targets]


def _require_own(of: UUID | None, build_id: UUID, field: str) -> None:
    if of != build_id:
        raise OutOfDomainError(field, of, "of this build")


def build_out(session: Session, row: Build) -> BuildOut:
    """As it travels."""
    summary, served = {}, []
    if row.chosen_design_id is not None:
        newest = design_queries.newest(session, row.chosen_design_id)
        summary, served = newest.summary, [t["label"] for t in newest.content["targets"]]
    kinds = kinds_of(session, row.id)
    return BuildOut(
        id=row.id,
        revision=row.revision,
        name=row.name,
        power_w=row.power_w,
        mode=row.mode,  # type: ignore[arg-type]
        targets=_targets(row),
        demo=row.demo,
        made_at=row.made_at,
        baseline_sweep_id=row.baseline_sweep_id,
        chosen_design_id=row.chosen_design_id,
        wire=None if row.wire is None else WirePlan.model_validate(row.wire),
        entries=len(kinds),
        hung="hung" in kinds,
        done="done" in kinds,
        look_again=asked_to_look(session, row.id) if "remind" in kinds else None,
        sweeps=[sweep_out(session, s) for s in queries.sweeps_of(session, row.id)],
        worst_swr=summary.get("worst_swr"),
        share=summary.get("share"),
        few_hold=summary.get("share") is not None and few_hold(summary["share"]),
        served=served,
    )


def settings_out(row: Settings) -> SettingsOut:
    """As it travels."""
    return SettingsOut.model_validate(row, from_attributes=True)


@router.get("/settings")
def settings(session: InTransaction) -> SettingsOut:
    """The settings."""
    return settings_out(queries.settings(session))


@router.patch("/settings")
def change_settings(session: InTransaction, patch: SettingsPatch) -> SettingsOut:
    """Change the settings; 409 when they were changed elsewhere since."""
    row = queries.settings(session)
    changes = patch.model_dump(mode="json", exclude_none=True, exclude={"revision"})
    edit(session, row, patch.revision, changes, lambda: settings_out(row))
    return settings_out(row)


@router.get("/builds")
def builds(session: InTransaction) -> list[BuildOut]:
    """The shelf, newest first."""
    return [build_out(session, row) for row in queries.all_builds(session)]


@router.post("/builds", status_code=201)
def new_build(session: InTransaction, made: BuildIn) -> BuildOut:
    """A build from a kept sweep, which becomes its baseline; or from targets alone, its wire still to be cut."""
    sweep = one_sweep(session, made.sweep_id) if made.sweep_id is not None else None
    if sweep is None and made.targets is None:
        raise OutOfDomainError("targets", "left out", "given where there is no sweep yet: one band at least")
    sweeps = [one_sweep(session, each) for each in made.more_sweep_ids]
    sweeps = sweeps if sweep is None else [sweep, *sweeps]
    if made.wire is not None:
        made.wire.require_hangs()
    targets = made.targets or (sweep_out(session, sweep).suggested_targets[:1] if sweep else [])
    if sweep is not None:
        require_inside([t.to_core() for t in targets], sweep_of(sweep))
    row = Build(
        name=made.name,
        power_w=made.power_w,
        mode=made.mode,
        targets=[t.model_dump() for t in targets],
        baseline_sweep_id=None if sweep is None else sweep.id,
        wire=None if made.wire is None else made.wire.model_dump(mode="json"),
    )
    session.add(row)
    session.flush()
    for each in sweeps:
        claim_sweep(session, each, row.id)
    session.flush()
    session.refresh(row)
    return build_out(session, row)


@router.get("/builds/{build_id}")
def build(session: InTransaction, build_id: UUID) -> BuildOut:
    """One build."""
    return build_out(session, queries.one_build(session, build_id))


@router.patch("/builds/{build_id}")
def change_build(session: InTransaction, build_id: UUID, patch: BuildPatch) -> BuildOut:
    """Change a build; 409 when it was changed elsewhere since."""
    row = queries.one_build(session, build_id)
    changes = patch.model_dump(exclude_none=True, exclude={"revision", "wire"})
    if patch.wire is not None:
        patch.wire.require_hangs()
        changes["wire"] = patch.wire.model_dump(mode="json")
    baseline = patch.baseline_sweep_id or row.baseline_sweep_id
    if baseline is not None and (patch.targets is not None or patch.baseline_sweep_id is not None):
        sweep = one_sweep(session, baseline)
        _require_own(sweep.build_id, build_id, "baseline_sweep_id")
        require_inside([t.to_core() for t in patch.targets or _targets(row)], sweep_of(sweep))
        require_bare(session, sweep)
    if patch.chosen_design_id is not None:
        design = design_queries.one_design(session, patch.chosen_design_id)
        _require_own(design.build_id, build_id, "chosen_design_id")
    edit(session, row, patch.revision, changes, lambda: build_out(session, row))
    session.flush()
    return build_out(session, row)


@router.delete("/builds/{build_id}", status_code=204)
def bin_build(session: InTransaction, build_id: UUID, revision: Counted) -> None:
    """Put a build in the bin; everything in it stays there."""
    row = queries.one_build(session, build_id)
    edit(session, row, revision, {}, lambda: build_out(session, row))
    queries.bin_build(row)


@router.post("/builds/{build_id}/restore")
def restore_build(session: InTransaction, build_id: UUID) -> BuildOut:
    """Take a build out of the bin."""
    row = queries.one_build(session, build_id, deleted=True)
    queries.restore_build(row)
    return build_out(session, row)


@router.post("/builds/{build_id}/duplicate", status_code=201)
def duplicate_build(session: InTransaction, build_id: UUID, made: DuplicateIn) -> BuildOut:
    """A copy of a build with its sweeps and its designs as they now are."""
    return build_out(session, queries.duplicate(session, queries.one_build(session, build_id), made.name))


@router.get("/bin")
def bin_contents(session: InTransaction) -> list[BinnedOut]:
    """What can be taken back, newest first."""
    found = queries.binned(session)
    rows: list[
        tuple[
            Literal["build", "sweep", "design", "piece", "photograph"],
            Build | SweepRow | Design | Piece | Photograph,
            str | None,
        ]
    ] = [
        *(("build", row, None) for row in found.builds),
        *(("sweep", row, name) for row, name in found.sweeps),
        *(("design", row, name) for row, name in found.designs),
        *(("piece", row, None) for row in pieces(session, binned=True)),
        *(("photograph", row, name) for row, name in binned_photographs(session)),
    ]
    out = [
        BinnedOut(kind=kind, id=row.id, name=row.name, build=name, binned_at=row.deleted_at)
        for kind, row, name in rows
        if row.deleted_at is not None
    ]
    out += [
        BinnedOut(
            kind="entry",
            id=row.id,
            name=row.kind,
            build=name,
            binned_at=row.deleted_at,
            entry=entry_out(session, row),
        )
        for row, name in binned_entries(session)
        if row.deleted_at is not None
    ]
    return sorted(out, key=lambda b: b.binned_at, reverse=True)
