"""What goes into an export: the review, what was decided, and the language it is said in."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.core.notebook.decisions import Addition, FindingAnswer, NoteChange, Observation
from mirkle.core.notebook.edition import Change
from mirkle.core.review import Review

# Says a sentence in some language.
Tell = Callable[[Message | str], str]


@dataclass(frozen=True)
class Content:
    """A review with its ``decisions`` by finding, hazards and conditions that were added by hand, what was ``seen`` on the video, and the
    ``changes`` to copy. ``tell`` says sentences in ``language``."""

    name: str
    review: Review
    decisions: Mapping[str, NoteChange | FindingAnswer] = field(default_factory=dict)
    additions: Sequence[Addition] = ()
    seen: Sequence[NoteChange | Observation] = ()
    changes: Sequence[Change] = ()
    tell: Tell = str
    language: str = "en"

    @property
    def decimal_comma(self) -> bool:
        """Whether the language writes 0,5."""
        return self.tell(message("{0:.1f}", 0.5)) == "0,5"

    def reasons(self, finding: Finding) -> tuple[str, ...]:
        """Everything that is said of a finding, a sentence each."""
        return tuple(map(self.tell, (*finding.because, *finding.background)))

    def why(self, finding: Finding) -> str:
        """The reasons, one behind the other."""
        return " ".join(self.reasons(finding))
