"""Finding what broke: what is left of a build's suspects, the next test, and practice at it."""

from yielding_coil.api.diagnosis import diagnoses, practice

ROUTERS = (diagnoses.router, practice.router)

__all__ = [
    "ROUTERS",
]
