"""What notebooks and scripts get: a review or a reading as arrays by name, and as data frames where pandas is there."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, fields
from typing import TYPE_CHECKING, Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from mirkle.core.errors import MirkleError
from mirkle.core.notes.model import Reading
from mirkle.core.review import Review
from mirkle.files.export.review_json import called_table, review_table
from mirkle.files.project.project import SourceFile

if TYPE_CHECKING:
    import pandas

Arrays = dict[str, NDArray[Any]]
_Found = TypeVar("_Found")


@dataclass(frozen=True, repr=False)
class ReviewResult(Review):
    """A review with the ``inputs`` that it was made from."""

    inputs: tuple[SourceFile, ...] = ()

    def arrays(self, what: str = "findings") -> Arrays:
        """The ``findings``, the ``notes``, or the ``road`` by distance, as arrays by name, (n,) each.

        Findings and notes have the members of the contract (docs/review.md), those of members joined by an underscore; a number that was
        not measured is nan. Of the road: ``distance_m``, ``time_s``, ``speed_mps``, ``heading_rad``, ``curvature_per_m`` (positive to the
        left) and its standard deviation, ``slip_rad``, ``east_m``, ``north_m`` and ``height_m`` from the start line.

        Raises
        ------
        MirkleError
            Something else was asked for.
        """
        if what == "road":
            profile, plan = self.profile, self.measured.plan
            names = ("distance_m", "time_s", "speed_mps", "heading_rad", "curvature_per_m", "curvature_sd_per_m", "slip_rad")
            line = {"east_m": plan.east_m, "north_m": plan.north_m, "height_m": plan.height_m}
            return {**{name: getattr(profile, name) for name in names}, **line}
        if what not in ("findings", "notes"):
            raise MirkleError("there are no such arrays", mend="ask for findings, notes or road", where=what)
        return _columns(review_table(self)[what])

    def to_dataframe(self, what: str = "findings") -> pandas.DataFrame:
        """As :meth:`arrays`, as a data frame of pandas.

        Raises
        ------
        ImportError
            pandas is not installed.
        MirkleError
        """
        import pandas

        return pandas.DataFrame(self.arrays(what))


@dataclass(frozen=True, repr=False)
class ReadingResult(Reading):
    """Notes as they were read."""

    def arrays(self) -> Arrays:
        """What each note calls, as arrays by name, (notes,) each."""
        return _columns({"index": n.index, "page": n.page, "line": n.line, "text": n.text, **called_table(n)} for n in self.notes)

    def to_dataframe(self) -> pandas.DataFrame:
        """As :meth:`arrays`, as a data frame of pandas.

        Raises
        ------
        ImportError
            pandas is not installed.
        """
        import pandas

        return pandas.DataFrame(self.arrays())


def with_methods(kind: type[_Found], found: Any, **more: Any) -> _Found:
    """A result as one of its more able kind: the same values, and what is only known here."""
    return kind(**{f.name: getattr(found, f.name) for f in fields(found)}, **more)


def _columns(rows: Iterable[Mapping[str, Any]]) -> Arrays:
    flat = [dict(_flat(row)) for row in rows]
    every = dict.fromkeys(name for row in flat for name in row)
    # A member that is null in one row and has members in another stands as those.
    names = [
        name for name in every if not any(other.startswith(f"{name}_") for other in every) or any(row.get(name) is not None for row in flat)
    ]
    return {name: _array([row.get(name) for row in flat]) for name in names}


def _flat(row: Mapping[str, Any], before: str = "") -> Iterable[tuple[str, Any]]:
    for name, value in row.items():
        if isinstance(value, Mapping):
            yield from _flat(value, f"{before}{name}_")
        elif isinstance(value, list | tuple):
            yield before + name, "; ".join(map(str, value))
        else:
            yield before + name, value


def _array(values: list[Any]) -> NDArray[Any]:
    """Figures as numbers, nan where there is none; anything else as it is."""
    known = [v for v in values if v is not None]
    if known and all(type(v) is bool for v in known) and len(known) == len(values):
        return np.array(values, bool)
    if known and all(isinstance(v, int | float) and type(v) is not bool for v in known):
        whole = len(known) == len(values) and all(isinstance(v, int) for v in known)
        return np.array([np.nan if v is None else v for v in values], int if whole else float)
    return np.array(values, object)
