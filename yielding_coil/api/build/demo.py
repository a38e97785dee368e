"""The invented builds, for whoever wants to see one before making their own."""

from yielding_coil import demo
from yielding_coil.api.build.builds import BuildOut, build_out
from yielding_coil.api.http import InTransaction, router_of
from yielding_coil.store import builds as queries

router = router_of("build")


@router.post("/demo", status_code=201)
def demo_builds(session: InTransaction) -> list[BuildOut]:
    """Lay the invented builds in anew; earlier ones of them go to the bin, nothing else is touched."""
    demo.lay_in(session, fresh=True)
    session.flush()
    return [build_out(session, row) for row in queries.all_builds(session) if row.demo]
