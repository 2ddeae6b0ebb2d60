"""Several passes of a stage, each with the book that was read on it, held against each other in the order driven."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from mirkle.core.errors import MirkleError
from mirkle.core.followup.changes import Between, between
from mirkle.core.review import Review
from mirkle.session.material import Inputs, Measurements, review_material


def followed(passes: Sequence[Inputs], *, measurements: Measurements | None = None) -> list[Between]:
    """Each pass against the one before it.

    Raises
    ------
    MirkleError
        There are fewer than two, or one can't be read.
    """
    if len(passes) < 2:
        raise MirkleError(
            "one pass alone says nothing of a change", mend="give --pass twice or more, in the order driven"
        )
    measurements = measurements or Measurements()
    return followed_reviews([review_material(inputs, measurements=measurements) for inputs in passes])


def followed_reviews(reviews: Sequence[Review]) -> list[Between]:
    """Each review against the one before it."""
    return [between(earlier, later) for earlier, later in pairwise(reviews)]
