"""A large file is read in a process of its own, so that the one that answers stays quick; a small one at once."""

import pickle
import subprocess
import sys
from pathlib import Path
from typing import Literal

from yielding_coil.core.errors import RefusedError, UnreadableError
from yielding_coil.formats.files import SweepFile, read

TOP = Path(__file__).parents[2]
# Up to here reading takes no longer than beginning a process.
SMALL_BYTES = 256 * 1024
LONGEST_S = 60.0


def read_apart(data: bytes, name: str = "", take: Literal["S11"] | None = None) -> SweepFile:
    """As `files.read`, wherever it is quicker.

    Raises:
        UnreadableError: nothing that is read here, or it takes longer than a minute.
    """
    if len(data) <= SMALL_BYTES:
        return read(data, name, take)
    try:
        done = subprocess.run(
            [sys.executable, "-m", "yielding_coil.formats.apart"],
            input=pickle.dumps((data, name, take)),
            stdout=subprocess.PIPE,
            cwd=TOP,
            timeout=LONGEST_S,
            check=False,
        )
    except subprocess.TimeoutExpired:
        raise UnreadableError(f"the file was not read within {LONGEST_S:.0f} s; sweep with fewer points") from None
    if done.returncode:
        raise UnreadableError("the file needs more memory than there is; sweep with fewer points")
    found = pickle.loads(done.stdout)
    if isinstance(found, RefusedError):
        raise found
    assert isinstance(found, SweepFile)
    return found


def main() -> None:
    """Read what comes in, tell what was found or why not."""
    data, name, take = pickle.load(sys.stdin.buffer)
    try:
        found: SweepFile | RefusedError = read(data, name, take)
    except RefusedError as why:
        found = why
    sys.stdout.buffer.write(pickle.dumps(found))


if __name__ == "__main__":
    main()
