"""Words that call two corners at once: a "change over" is the corner it stands with and the one the other way behind it.

A word that nobody has explained is likely such a compound where the book has it, again and again, right ahead of a bend the other way that
no note calls, and hardly such a bend stands anywhere else. It is asked about once, instead of one missing corner after the other.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.messages import message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.model import Note

# What calls the bend behind its corner as well.
CALLS_BOTH = ("change over",)
# The second corner of a compound begins this near behind the first. # common practice
DIRECTLY_M = 60.0
# A word means a compound where it stands at least this often, and at least this share of the notes with it are followed by an uncalled
# bend the other way.
LEAST, SHARE = 3, 0.7
# How many of the words that nobody knows call a bend; how often a bend without a note lies beside one that does, and beside any note; less
# likely than this a word calls none. # common practice
CALLS, BESIDE_CALLED, BESIDE_ANYWAY, HARMLESS = 0.05, 0.9, 0.03, 0.05


def calls_too(case: JudgingContext, note: Note, bend: Bend) -> bool:
    """Whether a note calls a bend behind its own corner as well."""
    return any(f.name in CALLS_BOTH for f in note.features) and _other_way_behind(case, note, bend)


def _other_way_behind(case: JudgingContext, note: Note, bend: Bend) -> bool:
    own = case.lineup.bend_of(note.index)
    return own is not None and own.side != bend.side and bend.apex_m - own.apex_m >= 0.0 and bend.from_m - own.to_m < DIRECTLY_M


def call_nothing(case: JudgingContext, findings: Sequence[Finding]) -> frozenset[str]:
    """The unread words that hardly call a bend, in lower case, by Bayes' rule over the places where they stand: whether a bend that nobody
    calls lies beside them."""
    uncalled = [f.note for f in findings if f.kind == "corner-uncalled"]
    places: defaultdict[str, list[bool]] = defaultdict(list)
    for note in case.notes:
        for word in {w.lower() for w in note.unknown_words}:
            places[word].append(note.index in uncalled or note.index - 1 in uncalled)
    return frozenset(w for w, beside in places.items() if _calls_a_bend(sum(beside), len(beside)) < HARMLESS)


def _calls_a_bend(beside: int, places: int) -> float:
    """How likely a word calls a bend that has a bend without a note beside it at some of its places."""
    without = places - beside
    calls = CALLS * BESIDE_CALLED**beside * (1.0 - BESIDE_CALLED) ** without
    nothing = (1.0 - CALLS) * BESIDE_ANYWAY**beside * (1.0 - BESIDE_ANYWAY) ** without
    return calls / (calls + nothing)


def with_compounds(case: JudgingContext, findings: Sequence[Finding]) -> list[Finding]:
    """The findings, with the missing corners behind a word that seems to call them put together into one question."""
    out = list(findings)
    for word, of_word in _behind_words(case, findings).items():
        # Of two words for it the first asks.
        found = [f for f in of_word if f in out]
        with_word = sum(n.is_corner and word in map(str.lower, n.unknown_words) for n in case.notes)
        if len(found) >= LEAST and len(found) >= SHARE * with_word:
            out = [f for f in out if f not in found] + [_question(word, found, with_word)]
    return out


def _behind_words(case: JudgingContext, findings: Sequence[Finding]) -> dict[str, list[Finding]]:
    """The missing corners that lie the other way right behind a note with an unread word, by the word in lower case."""
    bend_at = {u.bend.from_m: u.bend for u in case.lineup.uncalled}
    behind: defaultdict[str, list[Finding]] = defaultdict(list)
    for finding in findings:
        bend = bend_at.get(finding.from_m) if finding.kind == "corner-uncalled" else None
        note = case.notes[finding.note]
        if bend is not None and _other_way_behind(case, note, bend):
            for word in {w.lower() for w in note.unknown_words}:
                behind[word].append(finding)
    return behind


def _question(word: str, found: Sequence[Finding], with_word: int) -> Finding:
    """Whether a word calls the bends behind it, asked at the first of them."""
    first = min(found, key=lambda f: f.from_m)
    question = message(
        "At {called} of {of} places a bend the other way without a note follows “{word}”. If the word calls both, "
        "say in Gather that it is a change over.",
        word=word,
        called=len(found),
        of=with_word,
    )
    return replace(first, id=f"compound@{word}", severity="check", because=(*first.because, question), proposal=None)
