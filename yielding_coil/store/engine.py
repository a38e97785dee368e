"""How the database is spoken to: so many connections, and nothing that waits for ever."""

from sqlalchemy import URL, Engine, create_engine

# A lock that is not had, a statement without end, a transaction that nobody goes on with: given up after so long.
LOCK_MS, STATEMENT_MS, IDLE_MS = 5_000, 60_000, 60_000
# As many as there are threads that answer, each with one beside it; of the server's.
KEPT, MORE, WAIT_S = 20, 60, 10.0


def connect(url: URL | str, kept: int = KEPT, more: int = MORE) -> Engine:
    """Connections to a database: so many kept open, and so many more for a moment."""
    waits = {
        "lock_timeout": LOCK_MS,
        "statement_timeout": STATEMENT_MS,
        "idle_in_transaction_session_timeout": IDLE_MS,
    }
    options = " ".join(f"-c {name}={milliseconds}" for name, milliseconds in waits.items())
    return create_engine(
        url,
        pool_size=kept,
        max_overflow=more,
        pool_timeout=WAIT_S,
        pool_pre_ping=True,
        connect_args={"options": options},
    )
