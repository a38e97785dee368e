"""How long a test waits for what must come."""

# A stand-still ends the test; a machine with other work, on which a search of low priority hardly gets a turn,
# does not. What comes is waited for no longer than it takes.
PATIENCE_S = 180.0
