"""Candidates of a match, and the search for one that can be made."""

from yielding_coil.api.matching import matches, searches, tuners
from yielding_coil.api.matching.searches import SearchIn, SearchJob, plan_search

ROUTERS = (matches.router, searches.router, tuners.router)

__all__ = [
    "ROUTERS",
    "SearchIn",
    "SearchJob",
    "plan_search",
]
