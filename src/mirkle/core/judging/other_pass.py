"""What another pass of the stage can say of this one's findings, and what it can't."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding

# What is felt only at speed: a pass slower than this share says nothing against it.
AT_SPEED = 0.85


@dataclass(frozen=True)
class Witness:
    """Another pass: its findings, its pace as a share of this one's, whether it felt the vertical, and whether it is blurred."""

    findings: tuple[Finding, ...]
    pace: float = 1.0
    vertical: bool = True
    coarse: bool = False

    def speaks_to(self, kind: str) -> bool:
        """Whether it would show a thing of that kind if it were there."""
        needs = KINDS[kind].passes
        if needs == "at-speed":
            return self.vertical and self.pace > AT_SPEED
        return needs == "any" or (needs == "sharp" and not self.coarse)
