"""What differs between two profiles, leaf by leaf."""

from dataclasses import dataclass

from husbandry.species.leaves import Leaf
from husbandry.species.profile import Profile, leaves_with_paths


@dataclass(frozen=True)
class Difference:
    """One leaf as it was and as it is; None where it was not there. The path has dots, list places as numbers."""

    path: str
    before: Leaf | None
    after: Leaf | None


def differences(before: Profile, after: Profile) -> tuple[Difference, ...]:
    """Return every leaf whose value differs, in the order of the later profile, then what fell away.

    A leaf that only changed its basis or note is none: the number a plan goes by is the same.
    """
    old = {_dotted(path): leaf for path, leaf in leaves_with_paths(before)}
    new = {_dotted(path): leaf for path, leaf in leaves_with_paths(after)}
    found = [Difference(path, old.get(path), leaf) for path, leaf in new.items() if _bare(old.get(path)) != _bare(leaf)]
    return (*found, *(Difference(path, leaf, None) for path, leaf in old.items() if path not in new))


def _dotted(path: tuple[str | int, ...]) -> str:
    return ".".join(map(str, path))


def _bare(leaf: Leaf | None) -> object:
    return None if leaf is None else leaf.model_dump(exclude={"basis", "cite", "note"})
