"""Whether a repair is to be believed: its probability, what that allows, and what is only offered.

A word that was harmed may be read as another one. How probable that is follows from four things: how much worse the text
around it reads otherwise (the margin, in nats), how unlike the two sound, by which way the repair was found, and whether the
same word asks for the same repair elsewhere in this text, since a recogniser makes the same mistake again and again. A
logistic model weighs them; its weights come from ``bench/fit_repairs.py``.

A repair under :data:`APPLIED` is offered, not made, and the word stays as it was said. What steers (a side, a grade, a
line on the road, a number) is made only from :data:`STEERS` on, and never out of a word that is not near in sound.
"""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.notes.lattice import Choice, Fixed, Reader, Step
from mirkle.core.notes.model import Offer

APPLIED, STEERS, STEERS_WHOLE = 0.8, 0.95, 0.9
# No word further than this from a term in sound is read as one that steers.
NEAR = 0.3
# Nor where the text reads nearly as well without it, in nats.
CLEAR = 0.5
STEERING = frozenset(("direction", "grade", "change grade", "half", "distance", "line", "side", "corner"))
# How many words around a repair are read again without it.
BEFORE, BEHIND = 6, 9
# Logits; fitted by bench/fit_repairs.py on speech that was harmed by sound. The margin counts up to its bound.
WEIGHTS = {
    "heard": 2.15,
    "sound": 2.6,
    "stuck": -0.11,
    "teen": 3.24,
    "zero": 1.73,
    "margin": 0.78,
    "unlike": -14.13,
    "unlike listed": -2.06,
    "more words": -0.03,
    "again": 1.3,
    "otherwise": -1.32,
}
MOST_MARGIN = 6.0
ROUNDS = 4


@dataclass(frozen=True)
class Evidence:
    """What speaks for and against one repair.

    ``margin`` is how much dearer the text around it is without it; ``again`` and ``otherwise`` are in how many other places
    the same words ask for the same repair, and for another reading or none.
    """

    how: str
    margin: float
    unlike: float
    more_words: bool
    again: int
    otherwise: int

    @property
    def features(self) -> dict[str, float]:
        """The model's inputs by the names of its weights."""
        return {
            self.how: 1.0,
            "margin": min(self.margin, MOST_MARGIN),
            # A listed mishearing may sound as it likes.
            "unlike listed" if self.how == "heard" else "unlike": self.unlike,
            "more words": float(self.more_words),
            "again": math.log1p(self.again),
            "otherwise": math.log1p(self.otherwise),
        }


def probability(evidence: Evidence) -> float:
    """How probable it is that a repair is right, by logistic regression."""
    logit = sum(WEIGHTS[name] * value for name, value in evidence.features.items())
    return 1.0 / (1.0 + math.exp(-logit))


def allowed(choice: Choice, evidence: Evidence) -> bool:
    """Whether a repair may be made rather than offered."""
    sure = probability(evidence)
    if all(kind not in STEERING for kind, _ in choice.parts):
        return sure >= APPLIED
    # A zero too many is a clue and no fact, unless this recogniser does it again.
    if (evidence.how == "zero" and not evidence.again) or evidence.margin < CLEAR:
        return False
    # Of two numbers run together every figure was said.
    bar = STEERS_WHOLE if evidence.how == "stuck" else STEERS
    return sure >= bar and (evidence.unlike <= NEAR or (evidence.how == "heard" and _is_named_grade(choice)))


def _is_named_grade(choice: Choice) -> bool:
    """Whether a choice is a grade that is a word: a listed mishearing of one, such as "happen" for a hairpin, may sound as it likes."""
    return all(kind == "grade" and not key[:1].isdigit() for kind, key in choice.parts)


@dataclass(frozen=True)
class Settled:
    """The readings of a text, and by the word at which they begin how sure each repair is and what is only offered."""

    choices: tuple[Choice, ...]
    sure: dict[int, float]
    offers: dict[int, Offer]


def _offer(choice: Choice, words: Sequence[str], sure: float) -> Offer:
    """A repair that isn't believed, for somebody to say; ``words`` from its first on."""
    kind, key = choice.parts[0] if len(choice.parts) == 1 else ("", "")
    return Offer(" ".join(words[: choice.taken]), choice.taken, kind, key, choice.read_as, sure, choice.why)


def settle(reader: Reader, words: Sequence[str], joints: Sequence[int], *, fixed: Fixed | None = None) -> Settled:
    """Reads a text with the repairs that are to be believed; ``fixed`` are readings that stand already, by word.

    What is not believed is barred and the text read again, since the words around it may then read otherwise. After
    :data:`ROUNDS` only what was believed before may be repaired.
    """
    refused: set[int] = set()
    sure: dict[int, float] = {}
    offers: dict[int, Offer] = {}
    last_round = False

    def barred(at: int, choice: Choice) -> bool:
        return choice.how not in ("", "book") and (at in refused or (last_round and at not in sure))

    for round_ in range(ROUNDS + 1):
        last_round = round_ == ROUNDS
        path = reader.path(words, joints, barred=barred, fixed=fixed)
        evidence = evidence_of(reader, words, joints, path, fixed=fixed)
        by_word = {step.at: step.choice for step in path}
        believed = {at for at, e in evidence.items() if last_round or allowed(by_word[at], e)}
        sure = {at: probability(evidence[at]) for at in believed}
        doubtful = evidence.keys() - believed
        # What was offered once stays as it was offered.
        offers = {at: _offer(by_word[at], words[at:], probability(evidence[at])) for at in doubtful} | offers
        if not doubtful:
            break
        refused |= doubtful
    return Settled(tuple(s.choice for s in path), sure, {at: o for at, o in offers.items() if at not in sure})


def evidence_of(
    reader: Reader, words: Sequence[str], joints: Sequence[int], path: Sequence[Step], *, fixed: Fixed | None = None
) -> dict[int, Evidence]:
    """What speaks for each repair that a path makes, by the word at which it begins."""
    repaired = [n for n, step in enumerate(path) if step.choice.how not in ("", "book")]
    asked: Counter[tuple[str, str]] = Counter()
    read: Counter[str] = Counter()
    for step in path:
        said = " ".join(words[step.at : step.at + step.choice.taken])
        read[said] += 1
        if step.choice.how:
            asked[said, step.choice.read_as] += 1
    out: dict[int, Evidence] = {}
    for n in repaired:
        step = path[n]
        said = " ".join(words[step.at : step.at + step.choice.taken])
        again = asked[said, step.choice.read_as] - 1
        out[step.at] = Evidence(
            how=step.choice.how,
            margin=_margin(reader, words, joints, path, n, fixed),
            unlike=step.choice.unlike,
            more_words=step.choice.taken > 1,
            again=again,
            otherwise=read[said] - 1 - again,
        )
    return out


def _margin(reader: Reader, words: Sequence[str], joints: Sequence[int], path: Sequence[Step], n: int, fixed: Fixed | None) -> float:
    """How much dearer the words around one repair are when they are read in any other way."""
    first, last = max(0, n - BEFORE), min(len(path) - 1, n + BEHIND)
    begin, end = path[first].at, path[last].at + path[last].choice.taken
    own = path[n]

    def barred(at: int, choice: Choice) -> bool:
        return begin + at == own.at and choice.taken == own.choice.taken and choice.parts == own.choice.parts

    held = {at - begin: c for at, c in (fixed or {}).items() if begin <= at < end}
    other = reader.path(words[begin:end], joints[begin:end], barred=barred, fixed=held, start=path[first].state)
    return sum(s.cost for s in other) - sum(s.cost for s in path[first : last + 1])
