"""Long seeded trials: all of them by ./test --trials, a tenth of their seeds by ./test --deep."""

from dataclasses import dataclass, field

from scipy.stats import binom

# A tenth fails only on a count that a true claim would give once in a thousand.
ONCE_IN = 1e-3


@dataclass(frozen=True)
class Trials:
    """How many of a trial's seeds are run, and what their counts must show."""

    whole: bool
    figures: list[str] = field(default_factory=list)

    def some(self, seeds):
        """The seeds that are run: all, or every tenth."""
        return seeds if self.whole else seeds[::10]

    def at_least(self, count, of, share):
        """Whether so many bear out that at least such a share does."""
        return count >= share * of if self.whole else binom.cdf(count, of, share) >= ONCE_IN

    def at_most(self, count, of, share):
        """Whether so many bear out that at most such a share does."""
        return count <= share * of if self.whole else binom.sf(count - 1, of, share) >= ONCE_IN

    def note(self, name, **counts):
        """Figures of a trial, for the table at the end."""
        self.figures.append(
            f"{name:58} " + ", ".join(f"{what.replace('_', ' ')} {n}" for what, n in counts.items())
        )

    def holds(self, name, held, of, *, cannot_tell=0, bound=False, low=0.86, high=0.94):
        """Whether nominal 90 % intervals hold the truth in 86 to 94 %; or more, where told to be bounds."""
        share = held / of
        self.figures.append(f"{name:58} {100 * share:5.1f} % of {of}, cannot tell {cannot_tell}")
        return self.at_least(held, of, low) and (bound or self.at_most(held, of, high))
