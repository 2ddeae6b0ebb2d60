"""The review as one page to read in a browser.

Notes and file names may hold anything: the page holds no script and asks for nothing from anywhere.
"""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

import numpy as np

from mirkle.core.cautions import CAUTIONS
from mirkle.core.constants import kmh
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.core.notebook.decisions import Addition, NoteChange, Observation
from mirkle.core.notebook.observed import seen_words
from mirkle.core.recording.model import Floats
from mirkle.core.review import Review
from mirkle.files.export.content import Content, Tell


def report_html(content: Content) -> str:
    """The whole review as one page for any browser, with pictures in it and nothing that could run; what was seen on the video stands
    apart from what was measured."""
    review, changes, decisions, additions = content.review, content.changes, content.decisions, content.additions
    name, tell, language, seen = content.name, content.tell, content.language, content.seen
    body = [
        f"<h1>{escape(name)}</h1>",
        _paragraph(
            tell,
            message(
                "{0:.1f} km; {1} findings, {2} decided, {3} changes.",
                review.finish_m / 1000,
                len(review.findings),
                len(decisions),
                len(changes),
            ),
        ),
        '<ul class="cautions">' + "".join(f"<li>{escape(tell(Message(c)))}</li>" for c in CAUTIONS) + "</ul>",
        _doubts_html(review, tell),
        _plan_svg(review, additions, tell),
    ]
    if changes:
        rows = "".join(
            f"<tr><td>{c.page}</td><td>{c.line}</td><td><s>{_lines(c.old, tell)}</s></td><td><b>{_lines(c.new, tell)}</b></td></tr>"
            for c in changes
        )
        heads = "".join(f"<th>{escape(tell(Message(h)))}" for h in ("page", "line", "old", "new"))
        body.append(_heading(tell, message("Changes to copy")) + f"<table><tr>{heads}</tr>{rows}</table>")
    if additions:
        kinds = {"condition": message("next pass only"), "hazard": message("hazard")}
        items = "".join(
            "<li>" + escape(tell(message("{0}, {1}: {2}", _place(review, a), kinds[a.kind], message("{0}", a.words)))) + "</li>"
            for a in additions
        )
        body.append(_heading(tell, message("Added by hand")) + f"<ul>{items}</ul>")
    if seen:
        items = "".join(f"<li>{_seen_html(review, d, tell)}</li>" for d in seen)
        body.append(_heading(tell, message("Seen on the video")) + f"<ul>{items}</ul>")
    debrief = [r.text for r in review.remarks if r.debrief]
    if debrief:
        items = "".join(f"<li>{escape(words)}</li>" for words in debrief)
        body.append(_heading(tell, message("Said behind the finish")) + f"<ul>{items}</ul>")
    body.append(_heading(tell, message("Findings")))
    body += [_finding_html(content, f) for f in review.findings]
    return (
        f'<!doctype html><html lang="{escape(language)}"><head><meta charset="utf-8">'
        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src 'unsafe-inline'\">"
        f"<title>{escape(name)}</title><style>{_STYLE}</style></head><body>{''.join(body)}</body></html>\n"
    )


def _place(review: Review, addition: Addition) -> Message:
    """Where an addition is: on the road, or behind a note of which nobody knows where it lies."""
    if addition.from_m is not None or addition.notes is None:
        return message("{0:.2f} km", (addition.from_m or 0.0) / 1000)
    note = review.notes[addition.notes.first]
    return message("behind “{0}”, page {1}, line {2}", note.text, note.page, note.line)


def _seen_html(review: Review, decision: NoteChange | Observation, tell: Tell) -> str:
    note = review.notes[decision.first_note]
    words = tell(message(seen_words(decision.seen)))
    new = f" → <b>{_lines(decision.text, tell)}</b>" if isinstance(decision, NoteChange) else ""
    place = tell(message("page {0}, line {1}", note.page, note.line))
    return f"{escape(place)}: {escape(note.text)}: {escape(words)}{new}"


def _heading(tell: Tell, words: Message) -> str:
    return f"<h2>{escape(tell(words))}</h2>"


def _paragraph(tell: Tell, words: Message) -> str:
    return f"<p>{escape(tell(words))}</p>"


def _doubts_html(review: Review, tell: Tell) -> str:
    """What was not measured, and what else is to be doubted of the recording and the notes."""
    sentences = [*(u.sentence for u in review.measured.unmeasured), *review.doubts]
    items = "".join(f"<li>{escape(tell(t))}</li>" for t in sentences)
    return _heading(tell, message("Note")) + f"<ul>{items}</ul>" if sentences else ""


_STYLE = (
    "body{font:16px/1.4 sans-serif;max-width:52em;margin:2em auto;padding:0 1em;color:#1f1d1a;background:#f8f4ea}"
    "table{border-collapse:collapse}td,th{padding:.2em .8em;border-bottom:1px solid #e2dac8;text-align:left}"
    "section{border-top:1px solid #e2dac8;margin-top:1em}.danger h3{color:#a2321a}.cautions{font-size:14px;color:#6f695e}"
    "svg{display:block;background:#fffdf7;margin:.5em 0}@media print{body{background:#fff}}"
)


def _lines(text: str, tell: Tell) -> str:
    return "<br>".join(escape(line) for line in text.split("\n")) or escape(tell(message("struck out")))


def _finding_html(content: Content, finding: Finding) -> str:
    review, tell, why = content.review, content.tell, content.why(finding)
    decision = content.decisions.get(finding.id)
    note = review.notes[finding.note]
    decided = ""
    if decision is not None:
        parts = (tell(Message(decision.answer)), tell(Message(decision.by)) if decision.by else "", decision.remark)
        decided = _paragraph(tell, message("Decided: {0}", message("{0}", " ".join(p for p in parts if p))))
    proposal = ""
    if finding.proposal:
        proposal = "<p>" + escape(tell(message("Proposed"))) + f": <b>{_lines(finding.proposal.text, tell)}</b></p>"
    head = tell(message("page {0}, line {1}: {2}", note.page, note.line, message("{0}", note.text)))
    sure = message("{0}, {1:.0%} sure, {2:.2f} km.", Message(finding.severity), finding.confidence, finding.from_m / 1000)
    return (
        f'<section class="{escape(finding.severity)}"><h3>{escape(head)}</h3>'
        f"<p>{escape(tell(sure))} {escape(why)}</p>"
        f"{_trace_svg(review, finding, tell)}{proposal}{decided}</section>"
    )


def _points(x: Floats, y: Floats) -> str:
    return " ".join(f"{a:.1f},{b:.1f}" for a, b in zip(x, y, strict=True))


def _plan_svg(review: Review, additions: Sequence[Addition], tell: Tell) -> str:
    """The stage from above, north up, with the findings on it."""
    plan, last = review.measured.plan, int(review.finish_m)
    east, north = plan.east_m[: last + 1], plan.north_m[: last + 1]
    span = max(float(np.ptp(east)), float(np.ptp(north)), 1.0)
    x = 20 + (east - east.min()) / span * 660
    y = 20 + (north.max() - north) / span * 660
    height = 40 + float(np.ptp(north)) / span * 660
    marks = [(0.5 * (f.from_m + f.to_m), f.severity == "danger") for f in review.findings]
    marks += [(a.from_m, True) for a in additions if a.from_m is not None]
    dots = "".join(
        f'<circle cx="{x[i]:.1f}" cy="{y[i]:.1f}" r="{6 if danger else 4}" fill="{"#a2321a" if danger else "none"}" stroke="#1f1d1a"/>'
        for i, danger in ((min(last, int(m)), d) for m, d in marks)
    )
    about = escape(tell(message("The stage from above")))
    return (
        f'<svg role="img" aria-label="{about}" width="700" height="{height:.0f}" '
        f'viewBox="0 0 700 {height:.0f}"><polyline fill="none" stroke="#1f1d1a" stroke-width="2" '
        f'points="{_points(x[::5], y[::5])}"/>{dots}</svg>'
    )


def _trace_svg(review: Review, finding: Finding, tell: Tell) -> str:
    """Speed and how tight the line was, about a finding."""
    profile = review.profile
    first = int(np.clip(finding.from_m - 120, 0, len(profile.distance_m) - 2))
    last = int(np.clip(finding.to_m + 120, first + 1, len(profile.distance_m) - 1))
    at = np.arange(first, last + 1)
    x = 10 + (at - first) / (last - first) * 580
    speed, bent = profile.speed_mps[at], np.abs(profile.curvature_per_m[at])
    fast = 55 - 45 * speed / max(float(speed.max()), 1.0)
    tight = 110 - 45 * bent / max(float(bent.max()), 1e-3)
    left, right = (10 + (m - first) / (last - first) * 580 for m in (finding.from_m, finding.to_m))
    about = escape(tell(message("Speed above, how tight it was below")))
    fastest = escape(tell(message("to {0:.0f} km/h", kmh(float(speed.max())))))
    return (
        f'<svg role="img" aria-label="{about}" width="600" height="118" viewBox="0 0 600 118">'
        f'<rect x="{left:.1f}" y="0" width="{max(2.0, right - left):.1f}" height="118" fill="#efe5c8"/>'
        f'<polyline fill="none" stroke="#1f1d1a" stroke-width="2" points="{_points(x, fast)}"/>'
        f'<polyline fill="none" stroke="#6f695e" stroke-width="2" points="{_points(x, tight)}"/>'
        f'<text x="12" y="12" font-size="12">{fastest}</text></svg>'
    )
