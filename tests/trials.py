"""Long seeded trials: all of them by ./test --trials, a tenth of their seeds by ./test --deep."""

from dataclasses import dataclass

from scipy.stats import binom

# A tenth fails only on a count that a true claim would give once in a thousand.
ONCE_IN = 1e-3


@dataclass(frozen=True)
class Trials:
    """How many of a trial's seeds are run, and what their counts must show."""

    whole: bool

    def some(self, seeds):
        """The seeds that are run: all, or every tenth."""
        return seeds if self.whole else seeds[::10]

    def at_least(self, count, of, share):
        """Whether so many bear out that at least such a share does."""
        return count >= share * of if self.whole else binom.cdf(count, of, share) >= ONCE_IN

    def at_most(self, count, of, share):
        """Whether so many bear out that at most such a share does."""
        return count <= share * of if self.whole else binom.sf(count - 1, of, share) >= ONCE_IN
