"""Tuners: their parts and stops, the settings that match, and as near as they come where none does."""

from yielding_coil.core.tuner.adviser import (
    CONTROLS,
    Advice,
    Aim,
    Control,
    Dial,
    Seen,
    Step,
    advise_turn,
    shortest_way,
)
from yielding_coil.core.tuner.choices import LOSSY_SHARE, TunerChoice, TunerChoices, choices_of
from yielding_coil.core.tuner.nearest import compromise, nearest
from yielding_coil.core.tuner.settings import Matches, closed, inside, least_loss, matches_of, setting_values
from yielding_coil.core.tuner.tuner import BYPASSED, Carried, Side, Tee, Tuner, TunerNetwork, TunerSetting, tee_of

__all__ = [
    "BYPASSED",
    "CONTROLS",
    "LOSSY_SHARE",
    "Advice",
    "Aim",
    "Carried",
    "Control",
    "Dial",
    "Matches",
    "Seen",
    "Side",
    "Step",
    "Tee",
    "Tuner",
    "TunerChoice",
    "TunerChoices",
    "TunerNetwork",
    "TunerSetting",
    "advise_turn",
    "choices_of",
    "closed",
    "compromise",
    "inside",
    "least_loss",
    "matches_of",
    "nearest",
    "setting_values",
    "shortest_way",
    "tee_of",
]
