"""The computation and the rules of the job: NumPy and SciPy only, no input or output.

This is the front door: every public name can be imported from here, whatever file it lives in, and is loaded when
it is first asked for. `docs/core.md` shows each of them.

>>> from yielding_coil.core import Sweep, System, next_cut
>>> Sweep.__module__
'yielding_coil.core.sweep.sweep'
"""

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from yielding_coil.core.antenna import AnyLength as AnyLength
    from yielding_coil.core.antenna import begun as begun
    from yielding_coil.core.antenna import coil_places as coil_places
    from yielding_coil.core.antenna import cut_pieces as cut_pieces
    from yielding_coil.core.antenna import dragged as dragged
    from yielding_coil.core.antenna import fit_wire as fit_wire
    from yielding_coil.core.antenna import hung_dip as hung_dip
    from yielding_coil.core.antenna import margin_of as margin_of
    from yielding_coil.core.antenna import return_paths as return_paths
    from yielding_coil.core.antenna import sag_of as sag_of
    from yielding_coil.core.antenna import strip_of as strip_of
    from yielding_coil.core.antenna import study as study
    from yielding_coil.core.antenna import trap_schools as trap_schools
    from yielding_coil.core.antenna import tuned_together as tuned_together
    from yielding_coil.core.antenna import windows as windows
    from yielding_coil.core.antenna import zones_by_rule as zones_by_rule
    from yielding_coil.core.bench import BenchReport as BenchReport
    from yielding_coil.core.bench import bench_verdict as bench_verdict
    from yielding_coil.core.bench import characterise as characterise
    from yielding_coil.core.bench import setup_of as setup_of
    from yielding_coil.core.bench import setups_of as setups_of
    from yielding_coil.core.bench import suspects_of as suspects_of
    from yielding_coil.core.bench import winding_suspects as winding_suspects
    from yielding_coil.core.bode_fano import lowest_reflection as lowest_reflection
    from yielding_coil.core.bode_fano import lowest_swr as lowest_swr
    from yielding_coil.core.calibration import Correction as Correction
    from yielding_coil.core.calibration import Kit as Kit
    from yielding_coil.core.calibration import Noise as Noise
    from yielding_coil.core.calibration import acquisition_findings as acquisition_findings
    from yielding_coil.core.calibration import one_port as one_port
    from yielding_coil.core.calibration import residual as residual
    from yielding_coil.core.choice import Place as Place
    from yielding_coil.core.choice import SchoolsTask as SchoolsTask
    from yielding_coil.core.choice import compare_schools as compare_schools
    from yielding_coil.core.choice import fit_of as fit_of
    from yielding_coil.core.choice import ranked as ranked
    from yielding_coil.core.conductor import Conductor as Conductor
    from yielding_coil.core.conductor import WindingWire as WindingWire
    from yielding_coil.core.design import CoaxCapacitor as CoaxCapacitor
    from yielding_coil.core.design import Design as Design
    from yielding_coil.core.design import Evaluation as Evaluation
    from yielding_coil.core.design import Feedline as Feedline
    from yielding_coil.core.design import FixedCapacitor as FixedCapacitor
    from yielding_coil.core.design import Known as Known
    from yielding_coil.core.design import MatchSection as MatchSection
    from yielding_coil.core.design import MatchStub as MatchStub
    from yielding_coil.core.design import RadioTuner as RadioTuner
    from yielding_coil.core.design import as_built as as_built
    from yielding_coil.core.design import compare_feedlines as compare_feedlines
    from yielding_coil.core.design import design_findings as design_findings
    from yielding_coil.core.design import evaluate as evaluate
    from yielding_coil.core.design import loss_verdict as loss_verdict
    from yielding_coil.core.design import parts_list as parts_list
    from yielding_coil.core.design import predict_bands as predict_bands
    from yielding_coil.core.design import predict_yield as predict_yield
    from yielding_coil.core.design import summary_of as summary_of
    from yielding_coil.core.diagnosis import BandsRead as BandsRead
    from yielding_coil.core.diagnosis import Case as Case
    from yielding_coil.core.diagnosis import Diagnosis as Diagnosis
    from yielding_coil.core.diagnosis import DialRead as DialRead
    from yielding_coil.core.diagnosis import Done as Done
    from yielding_coil.core.diagnosis import Inquiry as Inquiry
    from yielding_coil.core.diagnosis import Installation as Installation
    from yielding_coil.core.diagnosis import LookRead as LookRead
    from yielding_coil.core.diagnosis import OhmRead as OhmRead
    from yielding_coil.core.diagnosis import SweepRead as SweepRead
    from yielding_coil.core.diagnosis import by_halves as by_halves
    from yielding_coil.core.diagnosis import diagnose as diagnose
    from yielding_coil.core.diagnosis import distance_curve as distance_curve
    from yielding_coil.core.diagnosis import installation as installation
    from yielding_coil.core.errors import RefusedError as RefusedError
    from yielding_coil.core.finding import Finding as Finding
    from yielding_coil.core.line import Cable as Cable
    from yielding_coil.core.line import CableRow as CableRow
    from yielding_coil.core.line import FoundLine as FoundLine
    from yielding_coil.core.line import Line as Line
    from yielding_coil.core.line import LineUncertainty as LineUncertainty
    from yielding_coil.core.line import OpenCoax as OpenCoax
    from yielding_coil.core.line import ReadThrough as ReadThrough
    from yielding_coil.core.line import Stub as Stub
    from yielding_coil.core.line import far_end as far_end
    from yielding_coil.core.line import open_coax_for as open_coax_for
    from yielding_coil.core.line import pair_ohm as pair_ohm
    from yielding_coil.core.line import shift_reference_plane as shift_reference_plane
    from yielding_coil.core.line import through_line as through_line
    from yielding_coil.core.line import two_readings as two_readings
    from yielding_coil.core.line import worth_measuring as worth_measuring
    from yielding_coil.core.matching import MatchTemplate as MatchTemplate
    from yielding_coil.core.matching import best_parts as best_parts
    from yielding_coil.core.matching import candidates as candidates
    from yielding_coil.core.matching import combinations as combinations
    from yielding_coil.core.matching import double_stubs as double_stubs
    from yielding_coil.core.matching import hairpin as hairpin
    from yielding_coil.core.matching import l_networks as l_networks
    from yielding_coil.core.matching import part_for_reactance as part_for_reactance
    from yielding_coil.core.matching import part_for_susceptance as part_for_susceptance
    from yielding_coil.core.matching import pi_networks as pi_networks
    from yielding_coil.core.matching import propose as propose
    from yielding_coil.core.matching import quarter_wave_ohm as quarter_wave_ohm
    from yielding_coil.core.matching import series_sections as series_sections
    from yielding_coil.core.matching import series_stubs as series_stubs
    from yielding_coil.core.matching import shunt_stubs as shunt_stubs
    from yielding_coil.core.matching import tee_networks as tee_networks
    from yielding_coil.core.matching import twelfth_wave_rad as twelfth_wave_rad
    from yielding_coil.core.modelled_antenna import ModelledAntenna as ModelledAntenna
    from yielding_coil.core.modelled_antenna import modelled as modelled
    from yielding_coil.core.parts import Capacitor as Capacitor
    from yielding_coil.core.parts import FixedLoad as FixedLoad
    from yielding_coil.core.parts import Inductor as Inductor
    from yielding_coil.core.parts import Resistor as Resistor
    from yielding_coil.core.parts import bare_inductance_h as bare_inductance_h
    from yielding_coil.core.parts import inductance_reading_h as inductance_reading_h
    from yielding_coil.core.reflection import impedance_of as impedance_of
    from yielding_coil.core.reflection import reflection_of as reflection_of
    from yielding_coil.core.reflection import return_loss_db as return_loss_db
    from yielding_coil.core.reflection import swr_of as swr_of
    from yielding_coil.core.reflection import swr_of_impedance as swr_of_impedance
    from yielding_coil.core.ring import Material as Material
    from yielding_coil.core.ring import Ring as Ring
    from yielding_coil.core.ring import RingCoil as RingCoil
    from yielding_coil.core.ring import Size as Size
    from yielding_coil.core.search import Held as Held
    from yielding_coil.core.search import SearchTask as SearchTask
    from yielding_coil.core.search import Shelf as Shelf
    from yielding_coil.core.search import Tube as Tube
    from yielding_coil.core.search import search_matches as search_matches
    from yielding_coil.core.sheet import BuildSheet as BuildSheet
    from yielding_coil.core.sheet import Holding as Holding
    from yielding_coil.core.sheet import Thing as Thing
    from yielding_coil.core.sheet import batch_of as batch_of
    from yielding_coil.core.sheet import box_wiring as box_wiring
    from yielding_coil.core.sheet import build_sheet as build_sheet
    from yielding_coil.core.sheet import from_drawer as from_drawer
    from yielding_coil.core.solenoid import Solenoid as Solenoid
    from yielding_coil.core.solenoid import turns_for as turns_for
    from yielding_coil.core.sweep import ReflectionUncertainty as ReflectionUncertainty
    from yielding_coil.core.sweep import Sweep as Sweep
    from yielding_coil.core.sweep import SwrSweep as SwrSweep
    from yielding_coil.core.sweep import band_change as band_change
    from yielding_coil.core.sweep import match_floor as match_floor
    from yielding_coil.core.sweep import moved_since as moved_since
    from yielding_coil.core.sweep import standing as standing
    from yielding_coil.core.sweep import suggested_targets as suggested_targets
    from yielding_coil.core.system import Antenna as Antenna
    from yielding_coil.core.system import Element as Element
    from yielding_coil.core.system import Station as Station
    from yielding_coil.core.system import System as System
    from yielding_coil.core.system import worst_over as worst_over
    from yielding_coil.core.target import Target as Target
    from yielding_coil.core.tolerance import Spread as Spread
    from yielding_coil.core.tolerance import Yield as Yield
    from yielding_coil.core.tolerance import share_trimmed as share_trimmed
    from yielding_coil.core.tolerance import shares_at as shares_at
    from yielding_coil.core.tolerance import swr_fan as swr_fan
    from yielding_coil.core.tolerance import yield_of as yield_of
    from yielding_coil.core.transformer import Transformer as Transformer
    from yielding_coil.core.trap import CoaxTrap as CoaxTrap
    from yielding_coil.core.trap import Trap as Trap
    from yielding_coil.core.trap import TrappedLeg as TrappedLeg
    from yielding_coil.core.trap import coax_turns_for as coax_turns_for
    from yielding_coil.core.trap import coil_for as coil_for
    from yielding_coil.core.trap import leg_for as leg_for
    from yielding_coil.core.trim import Dip as Dip
    from yielding_coil.core.trim import DipReading as DipReading
    from yielding_coil.core.trim import Evidence as Evidence
    from yielding_coil.core.trim import LogReading as LogReading
    from yielding_coil.core.trim import NextCut as NextCut
    from yielding_coil.core.trim import SwrPoint as SwrPoint
    from yielding_coil.core.trim import TrimLog as TrimLog
    from yielding_coil.core.trim import advise as advise
    from yielding_coil.core.trim import dip_in as dip_in
    from yielding_coil.core.trim import dip_of as dip_of
    from yielding_coil.core.trim import evidence_of as evidence_of
    from yielding_coil.core.trim import next_cut as next_cut
    from yielding_coil.core.trim import resistance_and_size as resistance_and_size
    from yielding_coil.core.trim import signs_of as signs_of
    from yielding_coil.core.trim import swr_of_powers as swr_of_powers
    from yielding_coil.core.trim import without_folds as without_folds
    from yielding_coil.core.tuner import Seen as Seen
    from yielding_coil.core.tuner import Tuner as Tuner
    from yielding_coil.core.tuner import TunerNetwork as TunerNetwork
    from yielding_coil.core.tuner import TunerSetting as TunerSetting
    from yielding_coil.core.tuner import advise_turn as advise_turn
    from yielding_coil.core.tuner import choices_of as choices_of
    from yielding_coil.core.tuner import compromise as compromise
    from yielding_coil.core.tuner import least_loss as least_loss
    from yielding_coil.core.tuner import matches_of as matches_of
    from yielding_coil.core.tuner import nearest as nearest
    from yielding_coil.core.tuner import shortest_way as shortest_way
    from yielding_coil.core.winding import AirCoil as AirCoil
    from yielding_coil.core.winding import CoilOnRing as CoilOnRing
    from yielding_coil.core.winding import Coupler as Coupler
    from yielding_coil.core.winding import LegTrap as LegTrap
    from yielding_coil.core.winding import LineChoke as LineChoke
    from yielding_coil.core.winding import RingCore as RingCore
    from yielding_coil.core.winding import Tuning as Tuning
    from yielding_coil.core.winding import WindingLayout as WindingLayout
    from yielding_coil.core.winding import WindingReport as WindingReport
    from yielding_coil.core.winding import WindingTask as WindingTask
    from yielding_coil.core.winding import WoundTransformer as WoundTransformer
    from yielding_coil.core.winding import choose_core as choose_core
    from yielding_coil.core.winding import input_capacitance as input_capacitance
    from yielding_coil.core.winding import joins_of as joins_of
    from yielding_coil.core.winding import turn_pairs as turn_pairs
    from yielding_coil.core.winding import wiring as wiring
    from yielding_coil.core.wire import FORMS as FORMS
    from yielding_coil.core.wire import KINDS as KINDS
    from yielding_coil.core.wire import CutPlan as CutPlan
    from yielding_coil.core.wire import Ground as Ground
    from yielding_coil.core.wire import HungWire as HungWire
    from yielding_coil.core.wire import Insulation as Insulation
    from yielding_coil.core.wire import Length as Length
    from yielding_coil.core.wire import Load as Load
    from yielding_coil.core.wire import Rule as Rule
    from yielding_coil.core.wire import Solved as Solved
    from yielding_coil.core.wire import Source as Source
    from yielding_coil.core.wire import Stock as Stock
    from yielding_coil.core.wire import Structure as Structure
    from yielding_coil.core.wire import Wire as Wire
    from yielding_coil.core.wire import cut_list as cut_list
    from yielding_coil.core.wire import on_tape as on_tape
    from yielding_coil.core.wire import scaled as scaled
    from yielding_coil.core.wire import segments as segments
    from yielding_coil.core.wire import what_fits as what_fits

# Where each public name lives.
_HOMES = {
    "antenna": "AnyLength begun coil_places cut_pieces dragged fit_wire hung_dip margin_of return_paths sag_of"
    " strip_of study trap_schools tuned_together windows zones_by_rule",
    "bench": "BenchReport bench_verdict characterise setup_of setups_of suspects_of winding_suspects",
    "bode_fano": "lowest_reflection lowest_swr",
    "calibration": "Correction Kit Noise acquisition_findings one_port residual",
    "choice": "Place SchoolsTask compare_schools fit_of ranked",
    "conductor": "Conductor WindingWire",
    "design": "CoaxCapacitor Design Evaluation Feedline FixedCapacitor Known MatchSection MatchStub RadioTuner"
    " as_built compare_feedlines design_findings evaluate loss_verdict parts_list predict_bands predict_yield"
    " summary_of",
    "diagnosis": "BandsRead Case Diagnosis DialRead Done Inquiry Installation LookRead OhmRead SweepRead by_halves"
    " diagnose distance_curve installation",
    "errors": "RefusedError",
    "finding": "Finding",
    "line": "Cable CableRow FoundLine Line LineUncertainty OpenCoax ReadThrough Stub far_end open_coax_for pair_ohm"
    " shift_reference_plane through_line two_readings worth_measuring",
    "matching": "MatchTemplate best_parts candidates combinations double_stubs hairpin l_networks"
    " part_for_reactance part_for_susceptance pi_networks propose quarter_wave_ohm series_sections series_stubs"
    " shunt_stubs tee_networks twelfth_wave_rad",
    "modelled_antenna": "ModelledAntenna modelled",
    "parts": "Capacitor FixedLoad Inductor Resistor bare_inductance_h inductance_reading_h",
    "reflection": "impedance_of reflection_of return_loss_db swr_of swr_of_impedance",
    "ring": "Material Ring RingCoil Size",
    "search": "Held SearchTask Shelf Tube search_matches",
    "sheet": "BuildSheet Holding Thing batch_of box_wiring build_sheet from_drawer",
    "solenoid": "Solenoid turns_for",
    "sweep": "ReflectionUncertainty Sweep SwrSweep band_change match_floor moved_since standing suggested_targets",
    "system": "Antenna Element Station System worst_over",
    "target": "Target",
    "tolerance": "Spread Yield share_trimmed shares_at swr_fan yield_of",
    "transformer": "Transformer",
    "trap": "CoaxTrap Trap TrappedLeg coax_turns_for coil_for leg_for",
    "trim": "Dip DipReading Evidence LogReading NextCut SwrPoint TrimLog advise dip_in dip_of evidence_of"
    " next_cut resistance_and_size signs_of swr_of_powers without_folds",
    "tuner": "Seen Tuner TunerNetwork TunerSetting advise_turn choices_of compromise least_loss matches_of nearest"
    " shortest_way",
    "winding": "AirCoil CoilOnRing Coupler LegTrap LineChoke RingCore Tuning WindingLayout WindingReport"
    " WindingTask WoundTransformer choose_core input_capacitance joins_of turn_pairs wiring",
    "wire": "CutPlan FORMS Ground HungWire Insulation KINDS Length Load Rule Solved Source Stock Structure Wire"
    " cut_list on_tape scaled segments what_fits",
}
_HOME_OF = {name: home for home, names in _HOMES.items() for name in names.split()}

__all__ = sorted(_HOME_OF)


def __getattr__(name: str) -> Any:
    """A public name, loaded when it is first asked for."""
    if name not in _HOME_OF:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    found = getattr(import_module(f"{__name__}.{_HOME_OF[name]}"), name)
    globals()[name] = found
    return found


def __dir__() -> list[str]:
    return sorted({*globals(), *__all__})
