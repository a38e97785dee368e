"""Designs and their revisions."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from pydantic import BaseModel, Field

from yielding_coil.api.http import Figure, InTransaction, router_of
from yielding_coil.api.sweep import antenna_of
from yielding_coil.core.design import summary_of
from yielding_coil.documents.design import DesignContent, read_content
from yielding_coil.documents.fields import Counted, Words
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as queries
from yielding_coil.store.revised import edit
from yielding_coil.store.tables import Design, DesignRevision

router = router_of("design")


class DesignIn(BaseModel):
    """A new design."""

    name: Annotated[Words, Field(min_length=1, max_length=120)]
    content: DesignContent


class RevisionIn(BaseModel):
    """A settled edit: of which revision, the whole content after it, and what that state is called, if anything."""

    edited: Counted
    content: DesignContent
    label: Annotated[Words, Field(max_length=120)] = ""


class WalkIn(BaseModel):
    """One step from which revision."""

    edited: Counted


class RevisionOut(BaseModel):
    """One state of a design."""

    number: Counted
    label: str
    content: DesignContent
    made_at: datetime
    can_undo: bool
    can_redo: bool

    @classmethod
    def from_row(cls, row: DesignRevision) -> "RevisionOut":
        """As it travels, upgraded from any older version."""
        return cls(
            number=row.number,
            label=row.label,
            content=read_content(row.content),
            made_at=row.made_at,
            can_undo=row.undo_number is not None,
            can_redo=row.redo_number is not None,
        )


class RevisionHead(BaseModel):
    """One state of a design in its history: its name, when, and what it came to."""

    number: Counted
    label: str
    made_at: datetime
    worst_swr: float | None
    share: float | None

    @classmethod
    def from_row(cls, row: DesignRevision) -> "RevisionHead":
        """As it travels."""
        return cls(
            number=row.number,
            label=row.label,
            made_at=row.made_at,
            worst_swr=row.summary.get("worst_swr"),
            share=row.summary.get("share"),
        )


class LabelIn(BaseModel):
    """A name for one state; empty takes it away."""

    label: Annotated[Words, Field(max_length=120)]


class DesignPatch(BaseModel):
    """Another name for a design."""

    name_revision: Counted
    name: Annotated[Words, Field(min_length=1, max_length=120)]


class DesignOut(BaseModel):
    """A design in its newest state; `name_revision` counts the changes of its name."""

    id: UUID
    build_id: UUID
    name: str
    name_revision: Counted
    revision: RevisionOut


class Summary(BaseModel):
    """What the shelf says of a design."""

    worst_swr: Figure
    share: Figure


def summary_out(request: Request, content: DesignContent) -> dict[str, float | None]:
    """The same as it is kept beside a revision."""
    found = summary_of(content.to_core(antenna_of(request, content)))
    return Summary.model_validate(found, from_attributes=True).model_dump()


def design_out(design: Design, newest: DesignRevision) -> DesignOut:
    """As it travels."""
    return DesignOut(
        id=design.id,
        build_id=design.build_id,
        name=design.name,
        name_revision=design.revision,
        revision=RevisionOut.from_row(newest),
    )


@router.get("/builds/{build_id}/designs")
def designs(session: InTransaction, build_id: UUID) -> list[DesignOut]:
    """Designs of a build, oldest first."""
    build_queries.one_build(session, build_id)
    return [design_out(d, queries.newest(session, d.id)) for d in build_queries.designs_of(session, build_id)]


@router.post("/builds/{build_id}/designs", status_code=201)
def new_design(request: Request, session: InTransaction, build_id: UUID, made: DesignIn) -> DesignOut:
    """Keep a new design; it becomes the one that the shelf shows."""
    # Before the session takes a connection, as below.
    summary = summary_out(request, made.content)
    build = build_queries.one_build(session, build_id)
    design = queries.make_design(session, build_id, made.name, made.content.model_dump(mode="json"), summary)
    build.chosen_design_id = design.id
    return design_out(design, queries.newest(session, design.id))


@router.get("/designs/{design_id}")
def design(session: InTransaction, design_id: UUID) -> DesignOut:
    """One design in its newest state."""
    return design_out(queries.one_design(session, design_id), queries.newest(session, design_id))


@router.patch("/designs/{design_id}")
def rename_design(session: InTransaction, design_id: UUID, patch: DesignPatch) -> DesignOut:
    """Give a design another name; 409 when that was done elsewhere since."""
    row = queries.one_design(session, design_id)
    head = queries.newest(session, design_id)
    edit(
        session,
        row,
        patch.name_revision,
        {"name": patch.name},
        lambda: design_out(row, head),
    )
    return design_out(row, head)


@router.delete("/designs/{design_id}", status_code=204)
def bin_design(session: InTransaction, design_id: UUID, name_revision: Counted) -> None:
    """Put a design in the bin; the shelf then shows the latest of those that stay."""
    row = queries.one_design(session, design_id)
    head = queries.newest(session, design_id)
    edit(session, row, name_revision, {}, lambda: design_out(row, head))
    queries.bin_design(row)
    session.flush()
    build = build_queries.one_build(session, row.build_id, deleted=True)
    if build.chosen_design_id == design_id:
        left = build_queries.designs_of(session, build.id)
        build.chosen_design_id = left[-1].id if left else None


@router.post("/designs/{design_id}/restore")
def restore_design(session: InTransaction, design_id: UUID) -> DesignOut:
    """Take a design out of the bin."""
    row = queries.one_design(session, design_id, deleted=True)
    row.deleted_at = None
    build = build_queries.one_build(session, row.build_id, deleted=True)
    if build.chosen_design_id is None:
        build.chosen_design_id = row.id
    return design_out(row, queries.newest(session, design_id))


@router.get("/designs/{design_id}/revisions")
def history(session: InTransaction, design_id: UUID) -> list[RevisionHead]:
    """Every state that a design was in, newest first."""
    queries.one_design(session, design_id)
    return [RevisionHead.from_row(row) for row in queries.revisions(session, design_id)]


@router.patch("/designs/{design_id}/revisions/{number}")
def label_revision(session: InTransaction, design_id: UUID, number: Counted, named: LabelIn) -> RevisionHead:
    """Give one state of a design a name."""
    queries.one_design(session, design_id)
    row = queries.revision(session, design_id, number)
    row.label = named.label.strip()
    return RevisionHead.from_row(row)


@router.get("/designs/{design_id}/revisions/{number}")
def revision(session: InTransaction, design_id: UUID, number: Counted) -> RevisionOut:
    """One state of a design."""
    queries.one_design(session, design_id)
    return RevisionOut.from_row(queries.revision(session, design_id, number))


@router.post("/designs/{design_id}/revisions", status_code=201)
def edit_design(request: Request, session: InTransaction, design_id: UUID, edit: RevisionIn) -> RevisionOut:
    """Keep a settled edit; 409 when the design was changed elsewhere since."""
    # Before the session takes a connection: reading the antenna may need one, and nobody waits holding one.
    summary = summary_out(request, edit.content)
    queries.one_design(session, design_id)
    row = queries.append(session, design_id, edit.edited, edit.content.model_dump(mode="json"), summary)
    row.label = edit.label.strip()
    return RevisionOut.from_row(row)


@router.post("/designs/{design_id}/{way}", status_code=201)
def walk(session: InTransaction, design_id: UUID, way: Literal["undo", "redo"], step: WalkIn) -> RevisionOut:
    """One step back or forward, kept as a revision of its own."""
    queries.one_design(session, design_id)
    return RevisionOut.from_row(queries.walk(session, design_id, step.edited, way))
