"""Invented builds that a new installation opens with."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cache
from importlib.resources import files
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session

from yielding_coil import data
from yielding_coil.core.antenna import coil_reading_h
from yielding_coil.core.design import summary_of
from yielding_coil.core.matching import MatchCandidate, Shape, propose
from yielding_coil.core.system import Antenna
from yielding_coil.core.winding import input_capacitance
from yielding_coil.documents.choke_and_trap import Choke, WireTrap
from yielding_coil.documents.coil import Coil
from yielding_coil.documents.design import (
    DesignContent,
    Feedline,
    ResistorAntenna,
    SweptAntenna,
    TargetPayload,
    Template,
    with_match,
)
from yielding_coil.documents.log import (
    CutData,
    DoneData,
    EntryIs,
    HungData,
    NoteData,
    OnAirData,
    ReadingData,
    WirePlan,
)
from yielding_coil.documents.meter_reading import DipRead
from yielding_coil.documents.ring_wound import RingCore, WoundTransformer
from yielding_coil.documents.wire import Soil, WireAntenna, WireStock
from yielding_coil.formats import touchstone
from yielding_coil.store import builds as build_queries
from yielding_coil.store.designs import make_design
from yielding_coil.store.entries import keep_entry
from yielding_coil.store.photographs import keep_photograph
from yielding_coil.store.sweeps import impedance_sweep_of, keep_sweep
from yielding_coil.store.tables import Build, Setup, SweepRow

LINE = "foam-6"


@dataclass(frozen=True, slots=True)
class _Sweep:
    """A made-up sweep, where it was taken, what was around, and how long ago."""

    file: str
    plane: str
    conditions: dict[str, str]
    line_m: float | None = None
    days_ago: int = 0


@dataclass(frozen=True, slots=True)
class _Told:
    """Something told in the log of a made-up build, and how long ago; with a picture where there is one."""

    days_ago: int
    said: EntryIs
    text: str
    picture: str | None = None


@dataclass(frozen=True, slots=True)
class _Build:
    """An invented build; its first sweep is the one that is matched."""

    name: str
    notes: str
    targets: tuple[TargetPayload, ...]
    sweeps: tuple[_Sweep, ...]
    line_m: float
    log: tuple[_Told, ...] = ()


def _band(key: str, label: str, limit: float, mode: str | None = None) -> TargetPayload:
    row = data.bands()[key]
    low, high = row.segments[mode] if mode else (row.low_hz, row.high_hz)
    return TargetPayload(label=label, low_hz=low, high_hz=high, swr_limit=limit)


def _builds() -> tuple[_Build, ...]:
    """The oldest first: the last one stands at the top of the shelf."""
    return (
        _Build(
            "Orchard sloping wire",
            "6.1 m of wire between two trees, one limit a segment. Made up.",
            (
                _band("15m", "15 m telegraphy", 2.0, "telegraphy"),
                _band("15m", "15 m speech", 1.5, "speech"),
                _band("12m", "12 m", 2.0),
            ),
            (
                _Sweep("orchard-feedpoint.s1p", "feedpoint", {"ground": "dry"}, days_ago=200),
                _Sweep("orchard-after-rain.s1p", "feedpoint", {"ground": "wet"}, days_ago=3),
            ),
            12.0,
            (
                _Told(201, NoteData(), "Wire between the two old trees, feed at 1.8 m."),
                _Told(190, NoteData(), "The box open, before the lid went on.", "open-box.jpg"),
                _Told(189, DoneData(), ""),
                _Told(
                    120, OnAirData(evidence="report", band="15 m speech"), "Heard well in the valley, noise low."
                ),
                _Told(
                    61,
                    OnAirData(
                        evidence="comparison",
                        band="15 m speech",
                        against="the allotment vertical",
                        stronger_db=-3.0,
                    ),
                    "Switched every minute, ten minutes.",
                ),
                _Told(4, NoteData(), "Three days of rain; bark wet where the cord rubs."),
            ),
        ),
        _Build(
            "Allotment long vertical",
            "8.75 m of wire on a pole, four raised radials. Made up.",
            (_band("15m", "15 m", 2.0),),
            (
                _Sweep("allotment-feedpoint.s1p", "feedpoint", {"near": "bean rows", "ground": "damp"}),
                _Sweep("allotment-shack.s1p", "line_end", {}, 17.6),
            ),
            17.6,
        ),
    )


LOFT_SETUP = {"height": "3 m under the tiles", "hung": "straight, ends folded down", "near": "", "ground": ""}
LOFT_LOG: tuple[EntryIs, ...] = (
    HungData(reach_m=[2.96]),
    ReadingData(reading=DipRead(meter="meter", dip_hz=24.2e6, swr=1.6)),
    CutData(act="fold", per_leg_m=[0.088, 0.088]),
    ReadingData(reading=DipRead(meter="meter", dip_hz=24.69e6, swr=1.4)),
)


def _lay_loft(session: Session) -> None:
    """A dipole half trimmed by dial: nothing swept yet. Made up."""
    build = Build(
        name="Loft dipole, 12 m",
        power_w=100.0,
        mode="speech",
        notes="Legs of covered wire along the rafters. Made up.",
        targets=[_band("12m", "12 m", 1.5).model_dump()],
        wire=WirePlan(stop="dip").model_dump(mode="json"),
        demo=True,
        made_at=datetime.now(UTC),
    )
    session.add(build)
    session.flush()
    setup = Setup(build_id=build.id, plane="feedpoint", conditions=LOFT_SETUP, instrument="needle from the drawer")
    session.add(setup)
    session.flush()
    for said in LOFT_LOG:
        keep_entry(session, build.id, said, setup_id=setup.id if isinstance(said, ReadingData) else None)


END_FED_OHM = 3200.0
COVERED = WireStock(diameter_m=0.0014, covering_m=0.0024)
# From a stake by the shed up into an apple tree.
ORCHARD_WIRE = WireAntenna(
    antenna="end-fed",
    numbers={"wire_m": 13.68, "counterpoise_m": 1.48, "feed_m": 1.8, "far_m": 8.0},
    stock=COVERED,
)
# A telescopic mast on the cabin roof, hull and water under it.
NARROWBOAT_WIRE = WireAntenna(
    antenna="loaded-vertical",
    numbers={"height_m": 4.0, "inductance_h": 4.98e-5, "coil_at": 0.5, "q": 250.0, "radials": 8.0},
    stock=COVERED,
    soil=Soil(conductivity_s_per_m=0.005, relative_permittivity=80.0),
)


def end_fed() -> DesignContent:
    """An end-fed wire's unun on a resistor of what such a wire shows: it is wound before the wire hangs."""
    targets = [_band("30m", "30 m", 3.0), _band("15m", "15 m", 3.0), _band("10m", "10 m", 3.0)]
    antenna = ResistorAntenna(resistance_ohm=END_FED_OHM)
    unun = WoundTransformer(
        key="unun",
        core=RingCore(mix="43", size="FT240"),
        wire="cu-1",
        wiring="tapped",
        primary_turns=2,
        secondary_turns=16,
        crossed=True,
    )
    best = input_capacitance(unun.to_core().part(0), antenna.to_core(), [t.to_core() for t in targets])
    return DesignContent(
        antenna=antenna,
        targets=targets,
        elements=[
            unun.model_copy(update={"input_capacitance_f": round(best * 1e12) * 1e-12}),
            Feedline(key="line", cable=LINE, length_m=15.0),
        ],
        beside=[CHOKE],
    )


CHOKE = Choke(
    key="choke",
    core=RingCore(mix="43", size="FT240"),
    cable="ptfe-2.8",
    outer_m=2.8e-3,
    turns=11,
    crossed=True,
)


def trapped() -> DesignContent:
    """Traps for a loft dipole on 15 and 12 m, on the resistor of a half-wave: no sweep of it yet. Made up."""
    twelve, fifteen = _band("12m", "12 m", 2.0), _band("15m", "15 m", 2.0)
    high, low = twelve.to_core().center_hz, fifteen.to_core().center_hz
    trap = WireTrap(
        key="trap",
        tuned_hz=round(0.97 * high, -3),
        high_hz=high,
        low_hz=low,
        capacitance_f=30e-12,
        former_m=0.025,
        wire="cu-1.6",
    )
    return DesignContent(
        antenna=ResistorAntenna(resistance_ohm=73.0),
        targets=[fifteen, twelve],
        elements=[Feedline(key="line", cable=LINE, length_m=11.0)],
        beside=[trap],
    )


def loaded() -> DesignContent:
    """A short vertical for 60 m as modelled, its coil to be wound. Made up."""
    sixty = _band("60m", "60 m", 3.0)
    coil = Coil(
        key="loading coil",
        place="series",
        inductance_h=round(coil_reading_h(NARROWBOAT_WIRE.hung(), sixty.to_core().center_hz) or 0.0, 8),
        former_m=0.05,
        wire="cu-1.6",
        pitch_m=0.0032,
    )
    return DesignContent(
        antenna=NARROWBOAT_WIRE,
        targets=[sixty],
        elements=[Feedline(key="line", cable=LINE, length_m=6.0)],
        beside=[coil],
    )


def _lay_unswept(
    session: Session, name: str, notes: str, design: str, content: DesignContent, wire: WirePlan | None = None
) -> None:
    """A build that hangs nowhere yet, with one design on its wire as modelled, or on a resistor."""
    build = Build(
        name=name,
        power_w=100.0,
        mode="speech",
        notes=notes,
        targets=[t.model_dump() for t in content.targets],
        wire=None if wire is None else wire.model_dump(mode="json"),
        demo=True,
        made_at=datetime.now(UTC),
    )
    session.add(build)
    session.flush()
    made = _keep_design(session, build, design, content, content.core_antenna())
    build.chosen_design_id = made


def lay_in(session: Session, *, fresh: bool = False) -> bool:
    """Lay in the demo builds once; with `fresh` again, the old ones going to the bin. Never touches others.

    Returns:
        Whether it was laid in.
    """
    settings = build_queries.settings(session)
    if settings.demo_laid_in and not fresh:
        return False
    for old in session.scalars(select(Build).where(Build.demo, Build.deleted_at.is_(None))):
        build_queries.bin_build(old)
    _lay_loft(session)
    _lay_unswept(
        session,
        "Orchard end-fed",
        "Half-waves from one end, linked, between the apple trees; the radio's tuner takes SWR 3. Made up.",
        "64 : 1 unun, 2 in 16",
        end_fed(),
        WirePlan(form="end-fed", rule="end-fed-practice", antenna=ORCHARD_WIRE, feed_ohm=END_FED_OHM),
    )
    _lay_unswept(
        session,
        "Narrowboat loaded vertical",
        "60 m from a 4 m mast on the cabin roof, coil half way up, eight wires over the hull. Made up.",
        "The mast as modelled, its coil",
        loaded(),
        WirePlan(form="loaded-vertical", rule="", antenna=NARROWBOAT_WIRE),
    )
    _lay_unswept(
        session,
        "Loft trap dipole",
        "Two bands under the tiles: 12 m up to the traps, 15 m through them. Made up.",
        "Traps of 30 pF",
        trapped(),
    )
    for made in _builds():
        _lay(session, made)
    settings.demo_laid_in = True
    return True


def _ago(days: int) -> datetime:
    return datetime.now(UTC) - timedelta(days=days)


def _keep(session: Session, build: Build, sweep: _Sweep) -> SweepRow:
    line = {"cable": LINE, "length_m": sweep.line_m} if sweep.line_m else None
    setup = Setup(build_id=build.id, plane=sweep.plane, conditions=sweep.conditions, line=line)
    session.add(setup)
    session.flush()
    original = (files(__package__) / sweep.file).read_bytes()
    read = touchstone.read_file(original)
    row = keep_sweep(
        session,
        read.sweep,
        original=original,
        original_name=sweep.file,
        reference_ohm=read.reference_ohm,
        source="file",
        build_id=build.id,
        setup_id=setup.id,
    )
    row.swept_at = _ago(sweep.days_ago)
    return row


def _lay(session: Session, made: _Build) -> None:
    """One build on the shelf, with the best L for its targets."""
    build = Build(
        name=made.name,
        power_w=100.0,
        mode="speech",
        notes=made.notes,
        targets=[t.model_dump() for t in made.targets],
        demo=True,
        made_at=datetime.now(UTC),
    )
    session.add(build)
    session.flush()
    baseline, *_ = [_keep(session, build, sweep) for sweep in made.sweeps]
    for told in made.log:
        entry = keep_entry(session, build.id, told.said, text=told.text, happened_at=_ago(told.days_ago))
        if told.picture is not None:
            picture = (files(__package__) / told.picture).read_bytes()
            keep_photograph(session, entry.id, told.picture, picture)
    build.baseline_sweep_id = baseline.id
    best = _best_match(made.name)
    content = with_match(_unmatched(made, baseline.id), best, Template())
    antenna = impedance_sweep_of(baseline)
    build.chosen_design_id = _keep_design(session, build, name_of(best.shape), content, antenna)


def _unmatched(made: _Build, sweep_id: UUID) -> DesignContent:
    """The wire on its coax, before its match."""
    return DesignContent(
        antenna=SweptAntenna(sweep_id=sweep_id),
        targets=list(made.targets),
        elements=[Feedline(key="line", cable=LINE, length_m=made.line_m)],
    )


@cache
def _best_match(name: str) -> MatchCandidate:
    """The best L for the targets of an invented build: always the same, so searched for once."""
    made = next(b for b in _builds() if b.name == name)
    antenna = touchstone.read_file((files(__package__) / made.sweeps[0].file).read_bytes()).sweep
    best = propose(_unmatched(made, UUID(int=0)).to_core(antenna), Template().to_core())[0]
    if best.refused is not None:
        raise RuntimeError(f"the demo build “{name}” cannot be matched: {best.refused}")
    return best


def _keep_design(session: Session, build: Build, name: str, content: DesignContent, antenna: Antenna) -> UUID:
    """A design with what the shelf says of it."""
    found = summary_of(content.to_core(antenna))
    summary = {"worst_swr": found.worst_swr, "share": found.share}
    return make_design(session, build.id, name, content.model_dump(mode="json"), summary).id


def name_of(shape: Shape) -> str:
    """An L: what is in series, what lies across, and where; as the page calls it."""
    short = {"coil": "coil", "capacitor": "C"}
    series = short[shape.series].capitalize()
    return f"{series} in series, {short[shape.shunt]} across the {'coax' if shape.shunt_at == 'source' else 'wire'}"
