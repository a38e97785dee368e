"""The search for a match that can be made: topologies, the shelf, the kernel that judges, and the front."""

from yielding_coil.core.search.found import Choice, FoundPart, GivenUp, Groups, SearchState, SearchTask
from yielding_coil.core.search.ideal import Ideal
from yielding_coil.core.search.network import Network, is_quarter_wave
from yielding_coil.core.search.search import search_matches
from yielding_coil.core.search.shelf import Held, Item, Shelf, Tube
from yielding_coil.core.search.topology import TOPOLOGIES, Family, PartKind, Slot, Topology

__all__ = [
    "TOPOLOGIES",
    "Choice",
    "Family",
    "FoundPart",
    "GivenUp",
    "Groups",
    "Held",
    "Ideal",
    "Item",
    "Network",
    "PartKind",
    "SearchState",
    "SearchTask",
    "Shelf",
    "Slot",
    "Topology",
    "Tube",
    "is_quarter_wave",
    "search_matches",
]
