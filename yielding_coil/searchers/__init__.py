"""Long computation in processes of its own, so that the one that answers stays quick."""

from yielding_coil.searchers.searchers import Searchers, SearchLostError

__all__ = ["SearchLostError", "Searchers"]
