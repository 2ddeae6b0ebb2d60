"""Whether two texts are of one book, from a sketch of each that is small enough to be kept with every stage.

A book is taken as the set of its runs of :data:`RUN` corners, each by its side and grade. A sketch holds the :data:`MOST` least hashes of
that set; below the larger end of the smaller sketch both hold all that there is, so the share that they have in common is an unbiased
estimate (bottom-k sketches: Cohen and Kaplan, 2007; from memory).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from zlib import crc32

from mirkle.core.notes.model import Note

# Of two books of 400 corners that have nothing to do with each other some 3 runs of this length are in both; a text of which a recogniser
# harmed one corner in four keeps a quarter of them.
RUN = 5
MOST = 200
# Two texts are of one book from this share on, and from as many runs.
SAME_SHARE, LEAST_SAME = 0.15, 4


def sketch_of(notes: Iterable[Note]) -> tuple[int, ...]:
    """The sketch of a book: rising hashes; empty where it has fewer corners than a run."""
    # Half grades are what is written, heard and changed least surely.
    corners = [f"{note.direction} {note.grade.rstrip('+-')}" for note in notes if note.direction and note.grade]
    runs = {crc32("|".join(corners[at : at + RUN]).encode()) for at in range(len(corners) - RUN + 1)}
    return tuple(sorted(runs)[:MOST])


def share_in_common(one: Sequence[int], other: Sequence[int]) -> float:
    """The share of the smaller book's runs that the other has, too, 0 to 1; 0 where too few are in both to tell."""
    if not one or not other:
        return 0.0
    end = min(max(s) if len(s) >= MOST else max(one[-1], other[-1]) for s in (one, other))
    here, there = ({h for h in s if h <= end} for s in (one, other))
    both = len(here & there)
    return both / min(len(here), len(there)) if both >= LEAST_SAME else 0.0


def nearest_book(sketch: Sequence[int], others: Sequence[Sequence[int]]) -> int | None:
    """Which of some books a text is of: the one that has most of its runs; ``None`` where none has enough of them, or another has nearly as
    many (two editions of one book on two stages)."""
    shares = [share_in_common(sketch, other) for other in others]
    best = max(range(len(shares)), key=shares.__getitem__, default=None)
    if best is None or shares[best] < SAME_SHARE:
        return None
    rival = max((share for at, share in enumerate(shares) if at != best), default=0.0)
    return best if 2 * rival < shares[best] else None
