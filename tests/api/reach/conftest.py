import ipaddress
import itertools

import httpx
import pytest

from yielding_coil.api.http import Reach

# Each test comes from elsewhere: how often one asked is remembered.
PLACES = itertools.count(1)
PROXY = "127.0.0.2"


@pytest.fixture
def outside(application, address):
    """What asks from outside, through a proxy that the owner named: gives a client for an address of its own."""
    app, found = application
    before = app.state.reach
    port = int(found.rsplit(":", 1)[1])
    app.state.reach = Reach(
        lan=True,
        names=lambda: frozenset({"coil.example", "192.0.2.9"}),
        port=port,
        proxies=(ipaddress.ip_network(PROXY),),
    )
    clients = []

    def asking(**headers):
        place = f"198.51.100.{next(PLACES) % 250 + 1}"
        transport = httpx.HTTPTransport(verify=False, local_address=PROXY)
        said = {"Host": "coil.example", "X-Forwarded-For": place, **headers}
        clients.append(httpx.Client(base_url=found, transport=transport, timeout=30, headers=said))
        return clients[-1]

    yield asking
    for client in clients:
        client.close()
    app.state.reach = before
