"""The profiles of this machine's crews: gathered from reviewed passes where the crew said so, and what each makes of the next review."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from datetime import UTC, date, datetime
from pathlib import Path

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.habits.misheard import usual_mishearings, with_mishearings
from mirkle.core.habits.pooled import pooled, scale_on, school_shown, without
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.notes.grading import KnownSchool
from mirkle.core.notes.language import Language
from mirkle.files.crew_record import SUFFIX, CrewRecord, keep_crew_record, read_crew_record
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.project import Project
from mirkle.session.paths import data_folder, fresh_path
from mirkle.session.settings import keep_setting, setting

# The setting that names the file of the crew that drives now, and what a stage keeps of the profile that it was judged with.
CHOSEN, SCALE = "crew-record", "scale"
DAYS_FROM = date(2000, 1, 1)


def folder() -> Path:
    """Where the profiles lie."""
    return data_folder() / "crews"


def known_crews() -> list[Path]:
    """The files of all profiles."""
    return sorted(folder().glob(f"*{SUFFIX}"))


def chosen_path() -> Path | None:
    """The file of the crew that drives now; ``None`` where none was chosen, or it is gone."""
    name = setting(CHOSEN, "")
    path = folder() / str(name) if name else None
    return path if path is not None and path.is_file() else None


def chosen_crew() -> CrewRecord | None:
    """The profile of the crew that drives now; ``None`` where there is none that can be read."""
    path = chosen_path()
    try:
        return read_crew_record(path) if path is not None else None
    except MirkleError:
        return None


def other_crews() -> list[CrewRecord]:
    """The profiles of the crews that don't drive now; what can't be read is left out."""
    found = []
    for path in known_crews():
        if path != chosen_path():
            try:
                found.append(read_crew_record(path))
            except MirkleError:
                continue
    return found


def with_others(mine: CrewRecord, others: Sequence[CrewRecord]) -> dict[str, list[PassEvidence]]:
    """The passes of this crew's driver and of its co-driver with others, by their names."""
    of_driver = [p for o in others if mine.driver and o.driver == mine.driver and o.co_driver != mine.co_driver for p in o.passes]
    of_co_driver = [p for o in others if mine.co_driver and o.co_driver == mine.co_driver and o.driver != mine.driver for p in o.passes]
    return {name: passes for name, passes in ((mine.driver, of_driver), (mine.co_driver, of_co_driver)) if passes}


def choose_crew(path: Path | None) -> None:
    """Another crew drives from now on, or none that is known."""
    keep_setting(CHOSEN, path.name if path is not None else "")


def begin_crew(record: CrewRecord) -> Path:
    """A new profile, which is the chosen one from now on.

    Raises
    ------
    MirkleError
        It has no name, or can't be written.
    """
    if not record.name:
        raise MirkleError("a crew needs a name", mend="write one: any name you choose")
    folder().mkdir(parents=True, exist_ok=True)
    path = fresh_path(folder(), record.name, SUFFIX, otherwise="crew")
    keep_crew_record(path, record)
    choose_crew(path)
    return path


def delete_crew(path: Path) -> None:
    """Deletes a profile: nothing of it is left but what was decided on stages."""
    path.unlink(missing_ok=True)
    if setting(CHOSEN, "") == path.name:
        choose_crew(None)


def days_of(moment: date) -> float:
    """A day as the profiles count it."""
    return float((moment - DAYS_FROM).days)


def today() -> float:
    """Today, as the profiles count it."""
    return days_of(datetime.now(UTC).date())


def scale_for(project: Project) -> ScalePrior | None:
    """What is known of the crew's scale for the reviews of a stage; the same each time that it is opened, so that findings stay as they
    were. ``None`` where no profile is used."""
    record = chosen_crew()
    if record is None or not record.used:
        return None
    name = hashlib.sha256(record.name.encode()).hexdigest()[:12]
    kept = _kept_scale(project, name)
    if kept is not None:
        return kept
    # All passes of a stage are of one road: what was written of any of them counts.
    conditions = frozenset[str]().union(*(made.conditions for made in project.passes()))
    scale = scale_on(without(record.passes, project.info("id")), today(), conditions)
    if not project.read_only:
        try:
            project.set_info(SCALE, json.dumps({"crew": name, **_as_json(scale)}))
        except MirkleError:
            return scale
        return _kept_scale(project, name)
    return scale


def scale_now() -> ScalePrior:
    """What is known of the crew's scale today, before it has written a book of the road: that of its profile, or of crews at large."""
    record = chosen_crew()
    return pooled(record.passes if record is not None and record.used else (), today()).prior


def school_now() -> KnownSchool | None:
    """What the profile says of how the crew grades; ``None`` where none is used."""
    record = chosen_crew()
    return school_shown(record.passes) if record is not None and record.used else None


def languages_as_heard() -> tuple[Language, ...]:
    """The shipped languages with what this crew's recogniser makes of their words, where the profile is used."""
    record, shipped = chosen_crew(), shipped_languages()
    if record is None or not record.used:
        return shipped
    return with_mishearings(shipped, usual_mishearings(heard for shown in record.passes for heard in shown.misheard))


def forget_scale(project: Project) -> None:
    """Lets the reviews of a stage use what is known by now.

    Raises
    ------
    UnusableProject
        It can't be kept.
    """
    project.set_info(SCALE, "")


def _as_json(scale: ScalePrior) -> dict[str, object]:
    return {
        "mean": [round(v, 5) for v in scale.mean.tolist()],
        "covariance": [[round(v, 7) for v in row] for row in scale.covariance.tolist()],
        "scatter": round(scale.scatter, 4),
        "top": scale.top,
        "pairs": scale.pairs,
        "stages": scale.stages,
        "ascending": scale.school.ascending if scale.school is not None else None,
    }


def _kept_scale(project: Project, name: str) -> ScalePrior | None:
    """The scale that a stage keeps of a crew; ``None`` where it keeps none, or one that is damaged."""
    try:
        kept = json.loads(project.info(SCALE) or "{}")
        if kept.get("crew") != name:
            return None
        mean, covariance = np.array(kept["mean"], dtype=float), np.array(kept["covariance"], dtype=float)
        if mean.shape != (6,) or covariance.shape != (6, 6) or not np.isfinite(covariance).all() or np.linalg.eigvalsh(covariance)[0] <= 0:
            return None
        top, ascending = int(kept["top"]), kept.get("ascending")
        school = KnownSchool(float(ascending), top) if ascending is not None and 0.0 < float(ascending) < 1.0 else None
        return ScalePrior(mean, covariance, float(kept["scatter"]), top, int(kept["pairs"]), int(kept["stages"]), school)
    except (AttributeError, KeyError, TypeError, ValueError, np.linalg.LinAlgError):
        return None
