"""What old payloads become when they are read: all that was kept stands, what came later has its default."""


def stands_in(kept, found):
    """Whether everything kept stands in what was read, at every depth."""
    if isinstance(kept, dict):
        return isinstance(found, dict) and all(k in found and stands_in(v, found[k]) for k, v in kept.items())
    if isinstance(kept, list):
        same = isinstance(found, list) and len(kept) == len(found)
        return same and all(stands_in(a, b) for a, b in zip(kept, found, strict=True))
    return kept == found
