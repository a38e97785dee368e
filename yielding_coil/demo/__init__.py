"""Invented builds that a new installation opens with."""

from importlib.resources import files

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.api.holding import summary_of
from yielding_coil.api.matches import MatchAsked, Template, propose
from yielding_coil.formats import touchstone
from yielding_coil.store import builds as build_queries
from yielding_coil.store.content import DesignContent, Feedline, SweptAntenna, TargetPayload
from yielding_coil.store.designs import make_design
from yielding_coil.store.sweeps import core_sweep, keep_sweep
from yielding_coil.store.tables import Build, Setup, SweepRow

LINE_M = 17.6


def lay_in(session: Session, *, fresh: bool = False) -> bool:
    """Lay in the demo build once; with `fresh` again, the old one going to the bin. Never touches others.

    Returns:
        Whether it was laid in.
    """
    settings = build_queries.settings(session)
    if settings.demo_laid_in and not fresh:
        return False
    for old in session.scalars(select(Build).where(Build.demo, Build.deleted_at.is_(None))):
        build_queries.bin_build(old)
    _allotment(session)
    settings.demo_laid_in = True
    return True


def _sweep(session: Session, build: Build, setup: Setup, name: str) -> SweepRow:
    original = (files(__package__) / name).read_bytes()
    read = touchstone.read_file(original)
    session.add(setup)
    session.flush()
    return keep_sweep(
        session,
        read.sweep,
        original=original,
        original_name=name,
        reference_ohm=read.reference_ohm,
        source="file",
        build_id=build.id,
        setup_id=setup.id,
    )


def _allotment(session: Session) -> None:
    """A wire a little under five-eighths of a wave on 15 m, on a fishing pole at an invented allotment."""
    band = data.bands()["15m"]
    target = TargetPayload(label=band.label, low_hz=band.low_hz, high_hz=band.high_hz, swr_limit=2.0)
    build = Build(
        name="Allotment long vertical",
        power_w=100.0,
        mode="speech",
        notes="8.75 m of wire on a pole, four raised radials. Made up.",
        targets=[target.model_dump()],
        demo=True,
    )
    session.add(build)
    session.flush()
    at_feedpoint = Setup(build_id=build.id, plane="feedpoint", conditions={"near": "bean rows", "ground": "damp"})
    through_coax = Setup(build_id=build.id, plane="line_end", line={"cable": "foam-6", "length_m": LINE_M})
    baseline = _sweep(session, build, at_feedpoint, "allotment-feedpoint.s1p")
    _sweep(session, build, through_coax, "allotment-shack.s1p")
    build.baseline_sweep_id = baseline.id
    antenna = core_sweep(baseline)
    bare = DesignContent(
        antenna=SweptAntenna(sweep_id=baseline.id),
        targets=[target],
        elements=[Feedline(key="line", cable="foam-6", length_m=LINE_M)],
    )
    best = propose(antenna, MatchAsked(content=bare, template=Template()))[0]
    if best.content is None:
        raise RuntimeError(f"the demo build cannot be matched: {best.refused}")
    design = make_design(
        session,
        build.id,
        "Coil up, C across",
        best.content.model_dump(mode="json"),
        summary_of(best.content, antenna),
    )
    build.chosen_design_id = design.id
