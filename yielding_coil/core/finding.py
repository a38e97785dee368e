"""What there is to know: a code of its subject and its values in SI units. The sentences are the page's.

Every code there is stands here, a `Literal` a subject, so that both type checkers see one without words.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Generic, Literal, TypeVar

# A coil or winding near the frequency where it resonates with its own capacitance.
ResonanceCode = Literal["own_capacitance", "near_self_resonance"]
# A design as a whole, and the parts of it.
DesignCode = Literal[
    ResonanceCode, "rf_voltage", "capacitor_too_low", "cable_off_its_law", "tuner_cannot", "tuner_voltage"
]
# One wound thing.
WindingCode = Literal[
    ResonanceCode,
    "winding_voltage",
    "no_power",
    "flux_above_guide",
    "near_curie",
    "heat_extrapolated",
    "material_above_range",
    "material_below_range",
    "material_note",
    "powder_loss_unknown",
    "powder_loss_estimated",
    "pair_impedance",
    "few_turns",
    "ratio_of_turns",
    "tight_bend",
    "choke_too_little",
    "choke_reactive",
    "capacitor_at_its_stop",
    "capacitor_voltage",
    "line_estimate",
    "coax_trap_loss",
    "coax_voltage",
]
# Sweeps of a wound thing on the bench.
BenchCode = Literal["like_an_antenna", "narrow_sweep"]
# What lies on the bench: what was planned, or a fault.
FaultCode = Literal[
    "right",
    "turn_more",
    "turn_less",
    "tap_more",
    "tap_less",
    "reversed",
    "bucking",
    "other_mix",
    "one_ring",
    "capacitor_missing",
    "capacitor_wrong",
    "shorted_turn",
    "other_turns",
    "cracked_core",
    "value_off",
    "resistor_off",
]
# The one reading more that would settle what readings leave open.
EvidenceCode = Literal["read_swr_at", "read_sign_at"]
# A wire that is being trimmed, and why it may stay as it is.
StopCode = Literal["band_holds", "dip_there", "dip_there_edges_open", "used_so"]
TrimCode = Literal[
    "higher_band_first",
    "check_first",
    "measure_again",
    "contradiction",
    "conditions_apart",
    "other_instrument",
    "dips_apart",
    "unexplained_move",
    "set_aside",
    "read_once_more",
    "far_from_length",
    "on_the_ground",
    "in_place_too_high",
    "sweep_closer",
    "beyond_sweep",
    "side_open",
    "dip_above",
    "dip_below",
    "target_outside",
    "uneven",
    "long_fold",
    "not_resonant",
    "bands_changed",
    "poor_minimum",
]
# A sweep as it is taken.
AcquisitionCode = Literal[
    "uncorrected",
    "interpolated",
    "old_calibration",
    "kept_passes",
    "above_one",
    "like_a_standard",
    "no_dip",
    "no_dip_anywhere",
    "dip_elsewhere",
]
# The standards of a calibration.
CalibrationCode = Literal["left_on", "swapped", "load_high", "too_narrow"]

# What is dealt with before anything else: it spoils a sweep, or comes before any cut.
GRAVE: frozenset[str] = frozenset(
    {
        "measure_again",
        "contradiction",
        "higher_band_first",
        "check_first",
        "dips_apart",
        "unexplained_move",
        "on_the_ground",
        "uncorrected",
        "above_one",
        "like_a_standard",
        "kept_passes",
        "no_dip_anywhere",
    }
)

# What was read is to be read again before anything else: then one press says that it is so.
AGAIN: frozenset[str] = frozenset({"measure_again", "unexplained_move", "read_once_more", "dips_apart"})

Values = Mapping[str, float | str | None]
Code_co = TypeVar("Code_co", bound=str, covariant=True)


@dataclass(frozen=True)
class Finding(Generic[Code_co]):
    """Something to know.

    Args:
        code: of its subject; never changes.
        values: by name, in SI units; what the sentence about it is made of.

    >>> cold: Finding[WindingCode] = Finding("no_power")
    >>> cold.code, dict(cold.values)
    ('no_power', {})
    """

    code: Code_co
    values: Values = field(default_factory=dict)

    @property
    def grave(self) -> bool:
        """Whether it is dealt with before anything else."""
        return self.code in GRAVE

    @property
    def asks_again(self) -> bool:
        """Whether it asks for what was read to be read again."""
        return self.code in AGAIN
