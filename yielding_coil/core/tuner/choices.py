"""The settings of a tuner to choose from for one load: by loss, by volts, over the band."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from yielding_coil.core.arrays import Complex, Real, require_positive
from yielding_coil.core.reflection import swr_of_impedance
from yielding_coil.core.tuner.nearest import compromise, nearest
from yielding_coil.core.tuner.settings import Matches, matches_of
from yielding_coil.core.tuner.tuner import Tuner, TunerSetting, tee_of

Merit = Literal["least loss", "least volts", "most capacitance", "best over the band", "nearest"]
# So many are shown, evenly along what there is, besides those that are best at something.
SHOWN = 6
# Losing so much less, as a share of the power, most capacitance is not the rule.
WORTH_SHARE = 0.005
# A setting that loses more than this share is worth a word.
LOSSY_SHARE = 0.03


@dataclass(frozen=True, slots=True)
class TunerChoice:
    """One setting, at full power in the middle of the band.

    Args:
        loss_w: in the tuner, of the power put in.
        peak_voltage_v: across the part that bears most.
        middle_swr, worst_swr: in the middle, and the worst over the band.
        merits: what it is best at.
    """

    setting: TunerSetting
    loss_w: float
    peak_voltage_v: float
    middle_swr: float
    worst_swr: float
    merits: tuple[Merit, ...]


@dataclass(frozen=True, slots=True)
class TunerChoices:
    """The settings for one load, least loss first.

    Args:
        reached: some setting matches; else the only one is the nearest.
        capacitance_rule: the one with most capacitance loses least here, as common practice has it; None where
            there is but one setting.
    """

    choices: tuple[TunerChoice, ...]
    reached: bool
    capacitance_rule: bool | None

    def lossy(self, power_w: float) -> int:
        """How many lose more of the power than is worth a word."""
        return sum(c.loss_w > LOSSY_SHARE * power_w for c in self.choices)


def choices_of(tuner: Tuner, frequency_hz: Real, load_ohm: Complex, power_w: float) -> TunerChoices:
    """What to choose from for a band.

    Args:
        frequency_hz, load_ohm: shape (n,) over the band, n odd: settings match in the middle one.
        power_w: above zero.

    Raises:
        OutOfDomainError: a load takes no power.
    """
    require_positive("power_w", power_w)
    f, load = np.asarray(frequency_hz, dtype=float), np.asarray(load_ohm, dtype=complex)
    middle = f.size // 2
    found = matches_of(tuner, float(f[middle]), complex(load[middle]))

    def told(setting: TunerSetting, merits: tuple[Merit, ...]) -> TunerChoice:
        tee = tee_of(tuner, setting, f)
        seen = tee.near_ohm(load)
        amperes = np.sqrt(2 * power_w / np.maximum(seen.real, 1e-12))
        volts = tee.carried(load, amperes).volts.max(axis=0)
        swr = swr_of_impedance(seen)
        lost = 1 - float(tee.efficiency(load)[middle])
        return TunerChoice(
            setting, lost * power_w, float(volts[middle]), float(swr[middle]), float(swr.max()), merits
        )

    if not found.settings:
        setting, _ = nearest(tuner, f[middle], load[middle])
        return TunerChoices((told(setting, ("nearest",)),), False, None)
    best = _best_of(found, power_w)
    over_band, _ = compromise(tuner, f, load, [found.settings[k] for k in best.values()])
    chosen: dict[TunerSetting, list[Merit]] = {}
    for k in np.unique(np.linspace(0, len(found.settings) - 1, SHOWN).round().astype(int)):
        chosen[found.settings[k]] = []
    for merit, k in best.items():
        chosen.setdefault(found.settings[k], []).append(merit)
    chosen.setdefault(over_band, []).append("best over the band")
    every = sorted((told(s, tuple(merits)) for s, merits in chosen.items()), key=lambda c: c.loss_w)
    rule = None
    if len(found.settings) > 1:
        most = found.efficiency[best["most capacitance"]]
        rule = bool(found.efficiency.max() - most < WORTH_SHARE)
    return TunerChoices(tuple(every), True, rule)


def _best_of(found: Matches, power_w: float) -> dict[Merit, int]:
    """The one that is best at each thing that the middle of the band tells."""
    volts = [float(found.carried(k, power_w).volts.max()) for k in range(len(found.settings))]
    farads = [np.nansum([s.output_f, s.input_f]) for s in found.settings]
    return {
        "least loss": int(found.efficiency.argmax()),
        "least volts": int(np.argmin(volts)),
        "most capacitance": int(np.argmax(farads)),
    }
