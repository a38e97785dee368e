"""What sweeps on the bench say of a wound thing or a ring."""

from yielding_coil.api.bench import characterisations, verdicts

ROUTERS = (characterisations.router, verdicts.router)

__all__ = [
    "ROUTERS",
]
