"""A sweep that is not of what it was said to be of, or too poor to say."""

from yielding_coil.core.errors import NotMatchableError

# Points of a sweep.
FEWEST = 11
AN_OCTAVE = "a sweep at least an octave wide"


class NotThisError(NotMatchableError):
    """The sweep is not of the thing it was said to be of, or does not show enough of it."""

    code = "not_this"
