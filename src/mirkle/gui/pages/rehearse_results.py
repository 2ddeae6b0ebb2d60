"""What came of a rehearsal: the last run, call by call, what is crowded, and what was practised before."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidget, QVBoxLayout, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.core.rehearsal.timing import Practised, worst
from mirkle.gui.controls import label, wrap_items, wrapped
from mirkle.gui.translation import tr, tr_counted, tr_message
from mirkle.session.rehearsal import Practice, Rehearsal, Run, Way, left_words

WAYS: dict[Way, str] = {"read": gettext_noop("Read along"), "call": gettext_noop("Call it"), "listen": gettext_noop("Listen")}
VERDICTS = {
    "early": gettext_noop("early"),
    "in-time": gettext_noop("in time"),
    "late": gettext_noop("late"),
    "not-called": gettext_noop("not called"),
}
# No more of what was practised before, and of the densest stretches, is listed.
MOST_RUNS, MOST_DENSE = 12, 3


class RehearsalResults(QWidget):
    """A heading, what is not rehearsed yet, and a list."""

    def __init__(self, rehearsal: Rehearsal) -> None:
        super().__init__()
        self._rehearsal = rehearsal
        self.setObjectName("card")
        # A plain widget paints the ground of its style sheet only when asked.
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.warning, self.heading, self.list = wrapped(style="readBack"), label(style="title"), QListWidget()
        self.list.setAccessibleName(tr("Result"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        wrap_items(self.list)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.addWidget(self.heading)
        column.addWidget(self.warning)
        column.addWidget(self.list, 1)

    def show_practice(self, practice: Practice) -> None:
        """What is left, and below what came of the last run, or what was practised before while one is running."""
        left, for_both = practice.left(), practice.left(both=True)
        hint = [tr_message(left_words(left)) + "."] if left else []
        hint += [tr("With both of you, {0} are left.", for_both)] if for_both > left else []
        self.warning.setText(" ".join(hint))
        self.warning.setVisible(bool(hint))
        self.list.clear()
        if self._rehearsal.results and not self._rehearsal.running:
            self._show_results()
        else:
            self._show_before(practice)

    def call_words(self, one: Practised) -> str:
        """A call that was practised, in a sentence."""
        text = self._rehearsal.lines[one.line].text
        if one.verdict == "not-called":
            return tr("not called: {0}", text)
        hint, seconds, metres = tr(VERDICTS[one.verdict]), abs(one.late_s), abs(one.late_m)
        if one.late_s > 0:
            return tr("{0}, {1:.1f} s and {2:.0f} m later than usual: {3}", hint, seconds, metres, text)
        return tr("{0}, {1:.1f} s and {2:.0f} m sooner than usual: {3}", hint, seconds, metres, text)

    def _show_results(self) -> None:
        r = self._rehearsal
        counts = {v: sum(p.verdict == v for p in r.results) for v in VERDICTS}
        hint = [tr("{0} {1}", n, tr(VERDICTS[v])) for v, n in counts.items() if n]
        self.heading.setText(", ".join(hint))
        again = worst(r.results)
        for number, one in enumerate(again, start=1):
            self.list.addItem(tr("{0}  again:  {1}", number, self.call_words(one)))
        for one in r.results:
            if one not in again and one.verdict != "in-time":
                self.list.addItem(self.call_words(one))
        self._show_breath()
        for one in r.results:
            if one.verdict == "in-time":
                self.list.addItem(self.call_words(one))

    def _show_before(self, practice: Practice) -> None:
        r = self._rehearsal
        count = sum(line.changed for line in r.lines)
        self.heading.setText(tr_counted("1 changed line", "{0} changed lines", count) if count else tr("No changes: the stage as written"))
        done, both = practice.rehearsed(), practice.rehearsed(both=True)
        for line in r.lines:
            if line.changed:
                tick = tr("rehearsed, both") if line.change in both else tr("rehearsed") if line.change in done else "–"
                old = line.old or tr("new")
                self.list.addItem(tr("{0}   {1}   →   {2}", tick, old, line.text))
        self._show_breath()
        for run in practice.runs[:MOST_RUNS]:
            self.list.addItem(_run_words(run))

    def _show_breath(self) -> None:
        r = self._rehearsal
        for one in r.crowded:
            text = r.lines[one.line].text
            self.list.addItem(
                tr("Too long to call: {0}. It takes {1:.1f} s, and there are {2:.1f} s.", text, one.takes_s, max(one.there_is_s, 0.0))
                + (" " + tr("“{0}” could be left out.", ", ".join(one.could_go)) if one.could_go else "")
            )
        for d in r.dense[:MOST_DENSE]:
            self.list.addItem(tr("{0:.1f} words a second from {1:.1f} to {2:.1f} km", d.words_a_second, d.from_m / 1000, d.to_m / 1000))


def _run_words(run: Run) -> str:
    """A practised run in a line of the history."""
    when, way = run.when.replace("T", " ")[:16], tr(WAYS[run.way]) if run.way in WAYS else run.way
    hint = [tr("{0} {1}", run.count(v), tr(words)) for v, words in VERDICTS.items() if run.count(v)]
    return tr("{0}: {1} at {2:.0f} %", when, way, 100 * run.pace) + (f": {', '.join(hint)}" if hint else "")
