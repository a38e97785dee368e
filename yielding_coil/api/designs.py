"""Designs and their revisions."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field

from yielding_coil.api.antennas import antenna_of
from yielding_coil.api.holding import summary_of
from yielding_coil.api.problems import RESPONSES
from yielding_coil.api.session import InTransaction
from yielding_coil.store import builds as build_queries
from yielding_coil.store import designs as queries
from yielding_coil.store.content import DesignContent, read_content
from yielding_coil.store.tables import Design, DesignRevision

router = APIRouter(prefix="/api", tags=["designs"], responses=RESPONSES)


class DesignIn(BaseModel):
    """A new design."""

    name: str = Field(min_length=1, max_length=120)
    content: DesignContent


class RevisionIn(BaseModel):
    """A settled edit: of which revision, and the whole content after it."""

    edited: int
    content: DesignContent


class WalkIn(BaseModel):
    """One step from which revision."""

    edited: int


class RevisionOut(BaseModel):
    """One state of a design."""

    number: int
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


class DesignOut(BaseModel):
    """A design in its newest state."""

    id: UUID
    build_id: UUID
    name: str
    revision: RevisionOut


def design_out(design: Design, newest: DesignRevision) -> DesignOut:
    """As it travels."""
    return DesignOut(
        id=design.id, build_id=design.build_id, name=design.name, revision=RevisionOut.from_row(newest)
    )


@router.get("/builds/{build_id}/designs")
def designs(session: InTransaction, build_id: UUID) -> list[DesignOut]:
    """Designs of a build, oldest first."""
    build_queries.one_build(session, build_id)
    return [design_out(d, queries.newest(session, d.id)) for d in build_queries.designs_of(session, build_id)]


@router.post("/builds/{build_id}/designs", status_code=201)
def new_design(request: Request, session: InTransaction, build_id: UUID, made: DesignIn) -> DesignOut:
    """Keep a new design; it becomes the one that the shelf shows."""
    build = build_queries.one_build(session, build_id)
    summary = summary_of(made.content, antenna_of(request, made.content))
    design = queries.make_design(session, build_id, made.name, made.content.model_dump(mode="json"), summary)
    build.chosen_design_id = design.id
    return design_out(design, queries.newest(session, design.id))


@router.get("/designs/{design_id}")
def design(session: InTransaction, design_id: UUID) -> DesignOut:
    """One design in its newest state."""
    return design_out(queries.one_design(session, design_id), queries.newest(session, design_id))


@router.get("/designs/{design_id}/revisions/{number}")
def revision(session: InTransaction, design_id: UUID, number: int) -> RevisionOut:
    """One state of a design."""
    queries.one_design(session, design_id)
    return RevisionOut.from_row(queries.revision(session, design_id, number))


@router.post("/designs/{design_id}/revisions", status_code=201)
def edit_design(request: Request, session: InTransaction, design_id: UUID, edit: RevisionIn) -> RevisionOut:
    """Keep a settled edit; 409 when the design was changed elsewhere since."""
    queries.one_design(session, design_id)
    summary = summary_of(edit.content, antenna_of(request, edit.content))
    row = queries.append(session, design_id, edit.edited, edit.content.model_dump(mode="json"), summary)
    return RevisionOut.from_row(row)


@router.post("/designs/{design_id}/{way}", status_code=201)
def walk(session: InTransaction, design_id: UUID, way: Literal["undo", "redo"], step: WalkIn) -> RevisionOut:
    """One step back or forward, kept as a revision of its own."""
    queries.one_design(session, design_id)
    return RevisionOut.from_row(queries.walk(session, design_id, step.edited, way))
