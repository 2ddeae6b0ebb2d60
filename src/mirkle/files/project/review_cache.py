"""A finished review as bytes, to be kept in the project file."""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from mirkle.core.judging.findings import Finding, Proposal
from mirkle.core.judging.grading_measure import Yardstick
from mirkle.core.judging.other_pass import Witness
from mirkle.core.judging.pace import Pace
from mirkle.core.judging.parts import Part
from mirkle.core.judging.scale import Band
from mirkle.core.lineup.book_fit import BookFit
from mirkle.core.lineup.call_clock import Clock
from mirkle.core.lineup.call_records import CallRecord, UsualLead
from mirkle.core.lineup.crew_scale import GapYardstick, GradeYardstick
from mirkle.core.lineup.remarks import Remark
from mirkle.core.lineup.result import GapMet, Lineup, Pairing, Uncalled
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.lineup.unclaimed import UnclaimedOdds
from mirkle.core.messages import Called, Message
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.gaps import UnmeasuredStretch
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.segments import BridgedGap, Segment
from mirkle.core.motion.stage_map import StageMap
from mirkle.core.motion.vertical import Feature
from mirkle.core.notes.called import CalledChange, CalledFeature, CalledThing
from mirkle.core.notes.grading import GradingScheme, KnownSchool
from mirkle.core.notes.model import Direction, Note, Offer, Reading, Span, Token
from mirkle.core.notes.rewording import Rewording
from mirkle.core.review import Measured, Review
from mirkle.core.speech.delivery import ReadOver, Spoken
from mirkle.core.speech.reading import CallTime
from mirkle.files.project.packing import pack, unpack
from mirkle.files.project.project import SourceFile

_CLASSES = (
    Band,
    BookFit,
    Bend,
    BridgedGap,
    Called,
    CalledChange,
    CalledFeature,
    CalledThing,
    Message,
    Clock,
    Direction,
    Segment,
    Feature,
    Finding,
    GapMet,
    GapYardstick,
    GradeYardstick,
    KnownSchool,
    CallRecord,
    Lineup,
    Measured,
    Note,
    Offer,
    Pace,
    Part,
    StageMap,
    Profile,
    Proposal,
    ReadOver,
    Reading,
    Remark,
    Review,
    Rewording,
    ScalePrior,
    CallTime,
    UsualLead,
    GradingScheme,
    Span,
    Spoken,
    Pairing,
    Token,
    Uncalled,
    UnmeasuredStretch,
    UnclaimedOdds,
    Witness,
    Yardstick,
)


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
    review = unpack(content, _CLASSES)
    if not isinstance(review, Review):
        raise ValueError("not a review")
    return review
