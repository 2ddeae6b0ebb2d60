"""Takes what another copy of a stage holds into this one: files, passes, decisions and practice, each once, by its identity.

Both copies end with the same, whichever takes in the other first: entries are put in order by their logical clock and identity, and what a
merge itself writes (one question, one key; two answers that disagree) has an identity made from the entries that it is about.
"""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass, replace

from mirkle.core.notebook.decisions import Decision, Entry, Ledger, PassChange
from mirkle.core.notebook.merging import Numbers, meetings
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.format import entry_of, entry_text, next_clock, pass_from, pass_text, uid_from

# What is worked out from the rest, says which stage it is, or what this file of it is called.
OWN = ("summary", "id", "name")


@dataclass(frozen=True)
class Merged:
    """What came from another copy: how many ``files``, ``passes`` and ``decisions``; how many pairs of decisions disagree
    (``conflicts``); and what is said of the stage (``settled``: event, car, pages) where the copies differed, as key, what stands now,
    and what the other said."""

    files: int = 0
    passes: int = 0
    decisions: int = 0
    conflicts: int = 0
    settled: tuple[tuple[str, str, str], ...] = ()

    @property
    def is_nothing(self) -> bool:
        """Whether all of it was here already."""
        return self == Merged()


def merge(mine: sqlite3.Connection, theirs: sqlite3.Connection) -> Merged:
    """Puts into ``mine`` what only ``theirs`` has, inside the transaction of the caller; ``theirs`` is only read."""
    files, new_files = _take_files(mine, theirs)
    passes, new_passes = _take_passes(mine, theirs, files)
    known = {uid for (uid,) in mine.execute("SELECT uid FROM log")}
    its = {uid for (uid,) in theirs.execute("SELECT uid FROM log")}
    decisions = _take_log(mine, theirs, Numbers(passes, files, {}))
    conflicts = _settle(mine, known - its, its - known)
    _put_passes_as_decided(mine)
    _take_practice(mine, theirs)
    return Merged(new_files, new_passes, decisions, conflicts, _take_facts(mine, theirs))


def _take_files(mine: sqlite3.Connection, theirs: sqlite3.Connection) -> tuple[dict[int, int], int]:
    """The numbers that the other copy's files have here, and how many were new. Contents are copied as they are packed."""
    query = "SELECT id, kind, name, sha256 FROM material ORDER BY id"
    here = {tuple(same): number for number, *same in mine.execute(query)}
    numbers, new = {}, 0
    for number, *same in theirs.execute(query).fetchall():
        if tuple(same) not in here:
            (content,) = theirs.execute("SELECT content FROM material WHERE id = ?", (number,)).fetchone()
            row = mine.execute("INSERT INTO material (kind, name, sha256, content) VALUES (?, ?, ?, ?)", (*same, content))
            here[tuple(same)] = int(row.lastrowid or 0)
            new += 1
        numbers[number] = here[tuple(same)]
    return numbers, new


def _take_passes(mine: sqlite3.Connection, theirs: sqlite3.Connection, files: Mapping[int, int]) -> tuple[dict[int, int], int]:
    """The numbers that the other copy's passes have here, and how many were new."""
    here = dict(mine.execute("SELECT uid, id FROM pass"))
    rows = theirs.execute("SELECT id, body, uid, clock FROM pass ORDER BY clock, uid").fetchall()
    new = [row for row in rows if row[2] not in here]
    for number, (_, _, uid, _) in enumerate(new, 1 + max(here.values(), default=0)):
        here[uid] = number
    numbers = {number: here[uid] for number, _, uid, _ in rows}
    of_here = Numbers(numbers, files, {})
    for number, body, uid, clock in new:
        made = pass_from(number, body)
        kept = pass_text(of_here.made(made)) if made is not None else body
        mine.execute("INSERT INTO pass (id, body, uid, clock) VALUES (?, ?, ?, ?)", (here[uid], kept, uid, clock))
    return numbers, len(new)


def _take_log(mine: sqlite3.Connection, theirs: sqlite3.Connection, numbers: Numbers) -> int:
    """Takes the entries in that are not here, in the order of all copies; returns how many of them decide something. What can't be read
    comes as it is."""
    here = dict(mine.execute("SELECT uid, seq FROM log"))
    entries: dict[int, int] = {}
    numbers = replace(numbers, entries=entries)
    decided = 0
    for seq, made_on, kind, body, uid, clock in theirs.execute("SELECT seq, pass, kind, body, uid, clock FROM log ORDER BY clock, uid"):
        if uid not in here:
            entry = entry_of(seq, kind, body)
            if entry is not None and not entry.is_unknown:
                body = entry_text(numbers.entry(entry))
            row = mine.execute(
                "INSERT INTO log (pass, kind, body, uid, clock) VALUES (?, ?, ?, ?, ?)",
                (numbers.passes.get(made_on, made_on), kind, body, uid, clock),
            )
            here[uid] = int(row.lastrowid or 0)
            decided += kind == "decide"
        entries[seq] = here[uid]
    return decided


def _settle(mine: sqlite3.Connection, only_here: set[str], only_there: set[str]) -> int:
    """Writes down which decisions of the two copies answer one question, and which of them disagree; returns how many do."""
    rows, ledger = _log_of(mine)
    uids, made_on = {row[0]: row[4] for row in rows}, {row[0]: row[1] for row in rows}
    edition = {made.id: made.notes for made in _passes(mine)}
    editions = {number: edition.get(made_on[number]) for number in ledger.done}
    ours, theirs = ([n for n in ledger.done if uids[n] in only] for only in (only_here, only_there))
    # One count for all of it: the other copy, which takes the same in, counts as high.
    clock = next_clock(mine)
    known = set(uids.values())

    def write(kind: str, entry: Entry, on: int, *about: str) -> bool:
        uid = uid_from(kind, *about)
        if uid in known:
            return False
        known.add(uid)
        row = (made_on[on], kind, entry_text(entry), uid, clock)
        mine.execute("INSERT INTO log (pass, kind, body, uid, clock) VALUES (?, ?, ?, ?, ?)", row)
        return True

    conflicts = 0
    for met in meetings(ledger.decisions, editions, ours, theirs):
        for number in (met.one, met.other):
            decision = ledger.decisions[number]
            if met.key is not None and decision.key != met.key:
                write("anchor", Entry("anchor", replace(decision, key=met.key), of=number), number, uids[number], met.key)
        if met.disagree:
            # The smaller identity first, in every copy.
            first, second = sorted((met.one, met.other), key=uids.__getitem__)
            conflicts += write("conflict", Entry("conflict", of=first, against=second), first, uids[first], uids[second])
    return conflicts


def _log_of(mine: sqlite3.Connection) -> tuple[list[tuple[int, int, str, str, str]], Ledger]:
    """The rows of the log in the order of all copies, and what they add up to."""
    rows = mine.execute("SELECT seq, pass, kind, body, uid FROM log ORDER BY clock, uid, seq").fetchall()
    found = (entry_of(seq, kind, body) for seq, _, kind, body, _ in rows)
    return rows, Ledger.of(entry for entry in found if entry is not None)


def _passes(connection: sqlite3.Connection) -> list[Pass]:
    found = (pass_from(number, body) for number, body in connection.execute("SELECT id, body FROM pass"))
    return [made for made in found if made is not None]


def _put_passes_as_decided(mine: sqlite3.Connection) -> None:
    """Each pass as its last change left it: the log of both copies says which that is."""
    _, ledger = _log_of(mine)
    state: dict[int, Pass] = {}
    for number, decision in ledger.decisions.items():
        # A change that was taken back leaves what was there before it, unless another stands.
        if isinstance(decision, PassChange) and number not in ledger.done:
            state.setdefault(decision.before.id, decision.before)
    for number in ledger.done:
        changed: Decision = ledger.decisions[number]
        if isinstance(changed, PassChange):
            state[changed.after.id] = changed.after
    for made in state.values():
        mine.execute("UPDATE pass SET body = ? WHERE id = ?", (pass_text(made), made.id))


def _take_practice(mine: sqlite3.Connection, theirs: sqlite3.Connection) -> None:
    """Takes practised runs in; of one that both have, what went on in the other copy."""
    here = {uid: (run, count) for uid, run, count in mine.execute("SELECT uid, run, COUNT(*) FROM practice GROUP BY uid")}
    (last,) = mine.execute("SELECT COALESCE(MAX(run), 0) FROM practice").fetchone()
    its: dict[str, list[str]] = {}
    for uid, body in theirs.execute("SELECT uid, body FROM practice ORDER BY id"):
        its.setdefault(uid, []).append(body)
    for uid, bodies in its.items():
        if uid not in here:
            last += 1
        run, count = here.get(uid, (last, 0))
        rows = [(run, body, uid) for body in bodies[count:]]
        mine.executemany("INSERT INTO practice (run, body, uid) VALUES (?, ?, ?)", rows)


def _take_facts(mine: sqlite3.Connection, theirs: sqlite3.Connection) -> tuple[tuple[str, str, str], ...]:
    """What is said of the stage: what was said later stands, and of what was said at once, the larger text."""
    query = "SELECT key, value, clock FROM about"
    here = {key: (value, clock) for key, value, clock in mine.execute(query)}
    settled = []
    for key, value, clock in theirs.execute(query).fetchall():
        if key in OWN:
            continue
        if key not in here:
            mine.execute("INSERT INTO about (key, value, clock) VALUES (?, ?, ?)", (key, value, clock))
        elif here[key][0] != value:
            ours = here[key]
            stands, other = ((value, clock), ours) if (clock, value) > (ours[1], ours[0]) else (ours, (value, clock))
            mine.execute("UPDATE about SET value = ?, clock = ? WHERE key = ?", (*stands, key))
            settled.append((key, stands[0], other[0]))
    return tuple(settled)
