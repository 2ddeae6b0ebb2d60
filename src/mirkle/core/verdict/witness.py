"""What another pass of the stage can say of this one's findings, and what it can't."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.verdict.findings import Finding

# What is felt only at speed: a pass slower than this share says nothing against it.
AT_SPEED, FELT_AT_SPEED = 0.85, ("jump-uncalled", "crest-uncalled", "bump-uncalled", "dip-uncalled")
# What positions alone blur too much to speak against.
BLURRED = ("tightens-uncalled", "opens-uncalled", "length-longer", "length-shorter", "grade-tighter", "grade-easier")


@dataclass(frozen=True)
class Witness:
    """Another pass: its findings, its pace as a share of this one's, whether it felt the vertical, and whether it is blurred."""

    findings: tuple[Finding, ...]
    pace: float = 1.0
    vertical: bool = True
    coarse: bool = False

    def speaks_to(self, kind: str) -> bool:
        """Whether it would show a thing of that kind if it were there."""
        if kind in FELT_AT_SPEED:
            return self.vertical and self.pace > AT_SPEED
        return not (self.coarse and kind in BLURRED)
