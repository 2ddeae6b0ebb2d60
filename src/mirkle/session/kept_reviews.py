"""Reviews that are kept in the project file beside what they were made from, so that a stage opens at once."""

from __future__ import annotations

from mirkle.core.review import Review
from mirkle.files.project.project import Project
from mirkle.files.project.review_cache import cache_key, pack_review, unpack_review
from mirkle.session.reviewing import Inputs


def kept_review(project: Project, inputs: Inputs) -> Review | None:
    """The review that was made of a pass before, ``None`` where there is none that can be used."""
    kept = project.cached(_key_of(inputs))
    try:
        return unpack_review(kept) if kept is not None else None
    except Exception:
        return None  # kept by another build, or damaged in whatever way: it is made again


def keep_review(project: Project, inputs: Inputs, review: Review) -> None:
    """Keeps a review beside what it was made from."""
    project.keep(_key_of(inputs), pack_review(review))


def _key_of(inputs: Inputs) -> str:
    files = (inputs.run, inputs.notes, inputs.calls, inputs.crew, inputs.overrides, *inputs.others)
    return cache_key(files, inputs.scale, inputs.reported)
