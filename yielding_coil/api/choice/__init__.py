"""Which antenna for a place."""

from yielding_coil.api.choice import schools
from yielding_coil.api.choice.schools import SchoolsIn, SchoolsJob, plan_schools

ROUTERS = (schools.router,)

__all__ = [
    "ROUTERS",
    "SchoolsIn",
    "SchoolsJob",
    "plan_schools",
]
