"""Under which addresses others find this computer: held against what `ip` says in a namespace of its own."""

import json
import subprocess
import sys

from garden import house_and_garden

from yielding_coil.reach import LOCAL_NAMES, addresses, names

ASKED = "import json; from yielding_coil.reach import addresses; print(json.dumps(addresses()))"


def test_loopback_is_never_one_of_them():
    assert not LOCAL_NAMES & names()
    assert not any(address.startswith("127.") for address in addresses())


def test_they_are_what_the_system_says_and_gone_when_the_network_is():
    with house_and_garden() as (house, _):
        within = ["ip", "netns", "exec", house]
        run = [*within, sys.executable, "-c", ASKED]
        up = json.loads(subprocess.run(run, check=True, capture_output=True, text=True).stdout)
        subprocess.run([*within, "ip", "link", "set", "veth0", "down"], check=True)
        down = json.loads(subprocess.run(run, check=True, capture_output=True, text=True).stdout)

    assert (up, down) == (["10.77.0.1"], [])
