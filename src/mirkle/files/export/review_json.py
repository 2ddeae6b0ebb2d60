"""The review as JSON: the contract ``mirkle-review/1`` with everything outside."""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from typing import Any

from mirkle import __version__
from mirkle.core.constants import kmh
from mirkle.core.judging.findings import Finding
from mirkle.core.lineup.remarks import Remark
from mirkle.core.lineup.result import GapMet, Pairing
from mirkle.core.messages import Message
from mirkle.core.motion.gaps import UnmeasuredStretch
from mirkle.core.motion.geodesy import degrees_of
from mirkle.core.notes.model import Note
from mirkle.core.review import Review
from mirkle.core.speech.delivery import Spoken
from mirkle.files.project.project import SourceFile


def review_table(review: Review, inputs: Sequence[SourceFile] = ()) -> dict[str, Any]:
    """The contract's object; a number that was not measured is ``None``. ``inputs`` are the files that it was made from."""
    gaps = {g.note: g for g in review.lineup.gaps}
    return {
        "format": "mirkle-review/1",
        "program": {"version": __version__},
        "inputs": [{"kind": m.kind, "name": m.name, "sha256": m.sha256} for m in inputs],
        "stage": {"length_m": _r(review.finish_m, 1), "start_s": _r(review.measured.drive.start_s, 3), "finish_s": _r(review.finish_s, 3)},
        "crew": {
            "language": review.reading.language,
            "order": review.reading.order,
            "sense": review.school.sense,
            "half_grades": review.school.half_grades,
            "yardstick": review.yardsticks[0].name if review.yardsticks else None,
        },
        "clock": {
            "calls_minus_run_s": _r(review.clock.calls_minus_run_s, 3) if review.clock else None,
            "uncertainty_s": _r(review.clock.uncertainty_s, 3) if review.clock else None,
        },
        "scale": [
            {"grade": b.grade, "radius_low_m": _r(b.radius_low_m, 1), "radius_high_m": _r(b.radius_high_m, 1), "count": b.count}
            for b in review.bands
        ],
        "links": [
            {"word": w, "low_m": _r(low, 1), "high_m": _r(high, 1), "count": n}
            for w, (low, _, high, n) in review.lineup.distances.links.items()
        ],
        "notes": [_note(n, review.lineup.tie_of.get(n.index), gaps.get(n.index), review) for n in review.notes],
        "jumps": [
            {"from_m": _r(f.from_m, 1), "to_m": _r(f.to_m, 1), "air_s": _r(f.air_s or 0.0, 3), "speed_kmh": _r(kmh(f.speed_mps), 1)}
            for f in review.measured.vertical or ()
            if f.kind == "jump"
        ],
        "findings": [_finding(f, review) for f in review.findings],
        "remarks": [
            {"at_m": _r(r.at_m, 1), "at_s": _r(r.at_s, 2) if math.isfinite(r.at_s) else None, "text": r.text, "kind": _kind_of(r)}
            for r in review.remarks
        ],
        "unmeasured": [_unmeasured(u) for u in review.measured.unmeasured],
        "fit": {
            "probability": _r(review.fit.probability, 3),
            "from_m": _r(review.fit.from_m, 1),
            "to_m": _r(review.fit.to_m, 1),
            "why": review.fit.why,
        },
        "doubts": [str(d) for d in review.doubts],
    }


def _kind_of(remark: Remark) -> str:
    return "debrief" if remark.debrief else "incident" if remark.incident else "remark"


def review_json(review: Review, inputs: Sequence[SourceFile] = ()) -> str:
    """The contract's file as text."""
    return json.dumps(review_table(review, inputs), ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def called_table(note: Note) -> dict[str, Any]:
    """What a note calls, as the contract spells it."""
    return {
        "direction": note.direction.value if note.direction else None,
        "grade": note.grade,
        "length": " ".join(note.length_terms) or None,
        "changes": list(map(str, note.changes)),
        "cautions": list(note.cautions),
        "features": list(map(str, note.features)),
        "line": list(map(str, note.line_on_road)),
        "objects": [str(o) for o in note.objects if o.kind != "surface"],
        "surface": [str(o) for o in note.objects if o.kind == "surface"],
        "remarks": list(note.remarks),
        "link": note.link,
        "distance_m": note.distance_m,
    }


def said_table(spoken: Spoken | None) -> dict[str, Any]:
    """How a note was said, as the contract spells it; ``as`` is null where no words were recorded."""
    if spoken is None:
        return {"as": None, "probability": None}
    return {"as": spoken.said_as, "probability": _r(spoken.probability, 3)}


def _note(note: Note, tie: Pairing | None, gap: GapMet | None, review: Review) -> dict[str, Any]:
    met = None
    if tie is not None and tie.bend is not None and tie.position is not None:
        bend = tie.bend
        met = {
            "from_m": _r(bend.from_m, 1),
            "to_m": _r(bend.to_m, 1),
            "apex_m": _r(bend.apex_m, 1),
            "direction": bend.direction,
            "radius_m": _r(bend.radius_m, 1),
            "turn_deg": _r(bend.turn_deg, 1),
            "grade": review.school.grade_at(tie.position),
            "grade_position": _r(tie.position, 2),
            "speed_min_kmh": _r(kmh(bend.speed_min_mps), 1),
            "confidence": _r(tie.sure, 3),
        }
    return {
        "index": note.index,
        "page": note.page,
        "line": note.line,
        "text": " ".join(note.text.split()),
        "called": called_table(note),
        **_said(note, review),
        "said": said_table(review.calls[note.index].how),
        "met": met,
        "gap_after": {"called_m": note.distance_m, "met_m": _r(gap.met_m, 1) if gap and gap.met_m is not None else None},
    }


def _said(note: Note, review: Review) -> dict[str, float | None]:
    """When and where a note was said, and how long before its place, on the recording's clock."""
    call, clock, profile = review.calls[note.index], review.clock, review.profile
    if call.time is None or clock is None:
        return {"said_at_s": None, "said_from_m": None, "lead_s": None}
    at_s = clock.run_s(call.time.from_s)
    from_m = profile.metres_at(at_s)
    return {"said_at_s": _r(at_s, 2), "said_from_m": _r(from_m, 1), "lead_s": _r(call.lead_s, 2) if call.lead_s is not None else None}


def _unmeasured(stretch: UnmeasuredStretch) -> dict[str, Any]:
    return {
        "from_m": _r(stretch.from_m, 1),
        "to_m": _r(stretch.to_m, 1),
        "why": f"no positions for {stretch.seconds:.0f} s",
        "least_m": _r(stretch.least_m, 1),
        "most_m": _r(stretch.most_m, 1),
    }


def _finding(finding: Finding, review: Review) -> dict[str, Any]:
    lat, lon = _place(review, 0.5 * (finding.from_m + finding.to_m))
    return {
        "id": finding.id,
        "kind": finding.kind,
        "note": finding.note,
        "from_m": _r(finding.from_m, 1),
        "to_m": _r(finding.to_m, 1),
        "called": _words(finding.called),
        "met": _words(finding.met),
        "lat_deg": lat,
        "lon_deg": lon,
        "by": "measurement",
        "severity": finding.severity,
        "confidence": _r(finding.confidence, 3),
        "seconds": finding.seconds,
        "proposal": finding.proposal.text if finding.proposal else None,
        "why": finding.why,
        "facts": {name: _r(value, 3) for name, value in finding.facts.items()},
    }


def _place(review: Review, at_m: float) -> tuple[float | None, float | None]:
    """Latitude and longitude of a place of the stage; ``None`` where no positions were recorded."""
    plan = review.measured.plan
    if plan.middle_deg is None:
        return None, None
    at = int(min(max(at_m, 0.0), len(plan.east_m) - 1))
    lat, lon = degrees_of(plan.east_m[at : at + 1] + plan.start_m[0], plan.north_m[at : at + 1] + plan.start_m[1], plan.middle_deg)
    return _r(lat[0], 7), _r(lon[0], 7)


def _words(words: str | Message | None) -> str | None:
    return None if words is None else str(words)


def _r(value: float, digits: int) -> float | None:
    return round(float(value), digits) if math.isfinite(value) else None
