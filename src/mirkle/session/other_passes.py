"""Places of other passes on the pass that is open: a hazard that was set on one is shown on all that read the same book."""

from __future__ import annotations

from mirkle.core.errors import MirkleError
from mirkle.core.joint.same_road import SameRoad, same_road
from mirkle.core.motion.profile import Profile
from mirkle.core.progress import silent
from mirkle.core.review import Measured
from mirkle.files.project.project import Project
from mirkle.session.kept_reviews import kept_review
from mirkle.session.pass_list import inputs_of_pass
from mirkle.session.reviewing import Measurements


class OtherPasses:
    """Tells where a moment of another pass's recording lies on this pass, ``measured`` here. Each pass is laid on this one once, when it
    is first asked about."""

    def __init__(self, project: Project, measured: Measured, measurements: Measurements | None) -> None:
        self._project, self._measured, self._measurements = project, measured, measurements or Measurements()
        self._roads: dict[int, tuple[Profile, SameRoad] | None] = {}

    def __call__(self, of_pass: int, time_s: float) -> float | None:
        """Metres from this pass's start; ``None`` where the other has no recording, or is of another road."""
        if of_pass not in self._roads:
            self._roads[of_pass] = self._laid_on(of_pass)
        found = self._roads[of_pass]
        if found is None:
            return None
        profile, road = found
        return road.here(profile.metres_at(time_s))

    def _laid_on(self, of_pass: int) -> tuple[Profile, SameRoad] | None:
        made = next((p for p in self._project.passes() if p.id == of_pass and p.run is not None), None)
        if made is None:
            return None
        try:
            inputs = inputs_of_pass(self._project, made)
            review = kept_review(self._project, inputs)
            other = review.measured if review is not None else self._measurements.of(inputs.run, None, silent)
        except MirkleError:
            return None
        here, there = (self._measured.profile, self._measured.plan), (other.profile, other.plan)
        road = same_road(here, there)
        return (other.profile, road) if road is not None else None
