"""The review as one page to read in a browser.

Notes and file names may hold anything: the page holds no script and asks for nothing from anywhere.
"""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

import numpy as np

from mirkle.core.constants import kmh
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.core.recording.model import Floats
from mirkle.core.review import Review
from mirkle.files.export.content import Content, Tell
from mirkle.files.export.report import Entry, Report, report_of


def report_html(content: Content) -> str:
    """The whole review as one page for any browser, with pictures in it and nothing that could run; what was seen on the video stands
    apart from what was measured."""
    tell, report = content.tell, report_of(content)
    body = [
        f"<h1>{escape(content.name)}</h1>",
        f"<p>{escape(report.summary)}</p>",
        '<ul class="cautions">' + "".join(f"<li>{escape(caution)}</li>" for caution in report.cautions) + "</ul>",
        _list(tell, message("Note"), [escape(doubt) for doubt in report.doubts]),
        _plan_svg(content.review, report, tell),
    ]
    if report.changes:
        rows = "".join(
            f"<tr><td>{c.page}</td><td>{c.line}</td><td><s>{_lines(c.old, tell)}</s></td><td><b>{_lines(c.new, tell)}</b></td></tr>"
            for c in report.changes
        )
        heads = "".join(f"<th>{escape(tell(Message(h)))}" for h in ("page", "line", "old", "new"))
        body.append(_heading(tell, message("Changes to copy")) + f"<table><tr>{heads}</tr>{rows}</table>")
    body += [
        _list(tell, message("Added by hand"), [escape(f"{e.place}, {e.title}: {e.why}") for e in report.of("added")]),
        _list(tell, message("Seen on the video"), [_seen_html(e, tell) for e in report.of("seen")]),
        _list(tell, message("Said behind the finish"), [escape(words) for words in report.debrief]),
        _heading(tell, message("Findings")),
        *(_finding_html(content.review, e, tell) for e in report.of("finding")),
    ]
    return (
        f'<!doctype html><html lang="{escape(content.language)}"><head><meta charset="utf-8">'
        "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src 'unsafe-inline'\">"
        f"<title>{escape(content.name)}</title><style>{_STYLE}</style></head><body>{''.join(body)}</body></html>\n"
    )


def _seen_html(entry: Entry, tell: Tell) -> str:
    new = f" → <b>{_lines(entry.written, tell)}</b>" if entry.written is not None else ""
    return f"{escape(entry.place)}: {escape(entry.note or '')}: {escape(entry.met or '')}{new}"


def _heading(tell: Tell, words: Message) -> str:
    return f"<h2>{escape(tell(words))}</h2>"


def _list(tell: Tell, heading: Message, items: Sequence[str]) -> str:
    """A list under its heading, of items as HTML; nothing where there are none."""
    return _heading(tell, heading) + "<ul>" + "".join(f"<li>{item}</li>" for item in items) + "</ul>" if items else ""


_STYLE = (
    "body{font:16px/1.4 sans-serif;max-width:52em;margin:2em auto;padding:0 1em;color:#1f1d1a;background:#f8f4ea}"
    "table{border-collapse:collapse}td,th{padding:.2em .8em;border-bottom:1px solid #e2dac8;text-align:left}"
    "section{border-top:1px solid #e2dac8;margin-top:1em}.danger h3{color:#a2321a}.cautions{font-size:14px;color:#6f695e}"
    "svg{display:block;background:#fffdf7;margin:.5em 0}@media print{body{background:#fff}}"
)


def _lines(text: str, tell: Tell) -> str:
    return "<br>".join(escape(line) for line in text.split("\n")) or escape(tell(message("struck out")))


def _finding_html(review: Review, entry: Entry, tell: Tell) -> str:
    assert entry.finding is not None
    sure = tell(message("{0}, {1:.0%} sure, {2:.2f} km.", message("{0}", entry.severity), entry.confidence, (entry.from_m or 0.0) / 1000))
    proposal = f"<p>{escape(tell(message('Proposed')))}: <b>{_lines(entry.proposal, tell)}</b></p>" if entry.proposal is not None else ""
    decided = f"<p>{escape(tell(message('Decided: {0}', message('{0}', entry.decided))))}</p>" if entry.decision else ""
    return (
        f'<section class="{escape(entry.finding.severity)}"><h3>{escape(entry.title)}</h3><p><b>{escape(entry.place)}</b></p>'
        f"<p>{escape(sure)} {escape(entry.why or '')}</p>"
        f"{_trace_svg(review, entry.finding, tell)}{proposal}{decided}</section>"
    )


def _points(x: Floats, y: Floats) -> str:
    return " ".join(f"{a:.1f},{b:.1f}" for a, b in zip(x, y, strict=True))


def _plan_svg(review: Review, report: Report, tell: Tell) -> str:
    """The stage from above, north up, with the findings on it."""
    plan, last = review.measured.plan, int(review.finish_m)
    east, north = plan.east_m[: last + 1], plan.north_m[: last + 1]
    span = max(float(np.ptp(east)), float(np.ptp(north)), 1.0)
    x = 20 + (east - east.min()) / span * 660
    y = 20 + (north.max() - north) / span * 660
    height = 40 + float(np.ptp(north)) / span * 660
    marks = [(0.5 * (f.from_m + f.to_m), f.severity == "danger") for f in review.findings]
    marks += [(e.from_m, True) for e in report.of("added") if e.from_m is not None]
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
