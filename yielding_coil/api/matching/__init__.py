"""Candidates of a match, and the search for one that can be made."""

from yielding_coil.api.matching import matches, searches
from yielding_coil.api.matching.searches import SearchIn, SearchJob, plan_search

ROUTERS = (matches.router, searches.router)

__all__ = [
    "ROUTERS",
    "SearchIn",
    "SearchJob",
    "plan_search",
]
