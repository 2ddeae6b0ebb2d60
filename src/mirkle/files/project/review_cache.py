"""A finished review as bytes, to be kept in the project file."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from mirkle.core.judging.parts import Part
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.review import Review
from mirkle.files.project.packing import pack, unpack
from mirkle.files.project.project import SourceFile


def cache_key(materials: Iterable[SourceFile | None], scale: ScalePrior | None = None, reported: Iterable[Part] = ()) -> str:
    """Names a review by what it was made from and by what: other code than made it makes it again."""
    digest = hashlib.sha256(computed_by())
    if scale is not None:
        digest.update(scale.mean.tobytes() + scale.covariance.tobytes() + repr((scale.scatter, scale.top, scale.school)).encode())
    for part in reported:
        digest.update(repr((part.from_m, part.to_m)).encode())
    for material in materials:
        if material is not None:
            digest.update(f"{material.kind} {material.sha256}".encode())
    return digest.hexdigest()


@cache
def computed_by() -> bytes:
    """A hash of all that computes a review: the core with its languages, and what reads files into it."""
    digest = hashlib.sha256()
    package = Path(__file__).parents[2]
    read = [file for folder in ("core", "files", "session") for file in sorted((package / folder).rglob("*"))]
    for file in read:
        if file.suffix in (".py", ".toml"):
            digest.update(file.relative_to(package).as_posix().encode())
            digest.update(file.read_bytes())
    return digest.digest()


def pack_review(review: Review) -> bytes:
    """A review as bytes."""
    return pack(review)


def unpack_review(content: bytes) -> Review:
    """A review from bytes.

    Raises
    ------
    ValueError
        They hold no review of this version.
    """
    review = unpack(content, Review)
    if not isinstance(review, Review):
        raise ValueError("not a review")
    return review
