"""Every refusal a visitor can meet.

RefusedError
├── OutOfDomainError        a value lies where the formula does not hold
├── UnreadableError         a file or a text could not be read
│   └── UnreadableTextError what a person typed was not understood
├── NotMatchableError       the load cannot be matched as asked
├── NotFoundError           nothing is kept under that id
├── StaleEditError          the edit was made on a state that is no longer the newest
├── InUseError              something else hangs on it
└── TooLargeError           more bytes than a file may have

`code` never changes; the words may.
"""

from typing import Any


class RefusedError(Exception):
    """The visitor's request cannot be served, and why."""

    code = "refused"
    status = 422

    def __init__(
        self,
        message: str,
        *,
        field: str | None = None,
        came_in: str | None = None,
        accepted: str | None = None,
        **more: Any,
    ) -> None:
        super().__init__(message)
        self.message = message
        self.field = field
        self.came_in = came_in
        self.accepted = accepted
        self.more = more

    def __reduce__(self) -> tuple[Any, ...]:
        """From one process to another as it is: each kind is made of other arguments than it keeps."""
        return _as_it_was, (type(self), self.args, self.__dict__)


def _as_it_was(kind: type[RefusedError], args: tuple[Any, ...], kept: dict[str, Any]) -> RefusedError:
    error = kind.__new__(kind)
    error.args = args
    error.__dict__.update(kept)
    return error


class OutOfDomainError(RefusedError):
    """A value lies outside the range where the formula holds."""

    code = "out_of_domain"

    def __init__(self, name: str, value: object, accepted: str) -> None:
        super().__init__(
            f"{name} is {value}; it must be {accepted}", field=name, came_in=str(value), accepted=accepted
        )
        self.name = name


class UnreadableError(RefusedError):
    """A file could not be read; the message names the line when there is one."""

    code = "unreadable"

    def __init__(self, message: str, *, line: int | None = None, **more: Any) -> None:
        where = f"line {line}: " if line is not None else ""
        super().__init__(where + message, line=line, **more)
        self.line = line


class UnreadableTextError(RefusedError):
    """What a person typed was not understood."""

    code = "not_understood"


class NotMatchableError(RefusedError):
    """The load cannot be matched as asked."""

    code = "not_matchable"


class NotFoundError(RefusedError):
    """Nothing is kept under that id."""

    code = "not_found"
    status = 404


class InUseError(RefusedError):
    """Something else hangs on it."""

    code = "in_use"
    status = 409


class StaleEditError(RefusedError):
    """The edit was made on a state that is no longer the newest; both are kept."""

    code = "stale_edit"
    status = 409


class TooLargeError(RefusedError):
    """More bytes came in than a file may have."""

    code = "too_large"
    status = 413
