"""How the application is reached from outside this computer: under which addresses, and by which certificate."""

from yielding_coil.reach.addresses import LOCAL_NAMES, addresses, names
from yielding_coil.reach.certificate import Certificate, certificate_for

__all__ = ["LOCAL_NAMES", "Certificate", "addresses", "certificate_for", "names"]
