"""What a process and the one that began it tell each other: one Python object after the other.

What comes is our own process's, begun by us: nothing from outside is ever read so.
"""

import pickle
from typing import IO

_LENGTH = 8


def send(to: IO[bytes], what: object) -> None:
    """Tell something."""
    payload = pickle.dumps(what, protocol=pickle.HIGHEST_PROTOCOL)
    to.write(len(payload).to_bytes(_LENGTH, "big") + payload)
    to.flush()


def received(source: IO[bytes]) -> object:
    """The next word; None where there is none any more."""
    head = source.read(_LENGTH)
    if len(head) < _LENGTH:
        return None
    size = int.from_bytes(head, "big")
    payload = source.read(size)
    return pickle.loads(payload) if len(payload) == size else None
