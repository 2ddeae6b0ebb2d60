"""From words to terms: every way to read each word, and the cheapest way through all of them.

Words as they stand cost nothing. In what was said, a form that a recogniser is known to make, a form that sounds alike,
two numbers stuck together and a zero too many may be read, too, and cost by how unlikely they are; what was written is
read as it stands. :mod:`mirkle.core.notes.grammar` adds what may stand where, and a Viterbi search finds the cheapest
path, in time linear in the text. What no reading makes sense of stays unread. Whether a repair that the cheapest path
makes is to be believed is :mod:`mirkle.core.notes.repairs`' affair.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from mirkle.core.messages import Message, message
from mirkle.core.notes import grammar
from mirkle.core.notes.language import HALF_SIGNS, Language, Match, Term
from mirkle.core.notes.shorthand import LARGEST_GRADE, MOST_DIGITS, is_figure_of_no_grade, is_no_side, joins_a_number
from mirkle.core.notes.sounding_alike import AT_ONCE, SoundsAlike

# Nothing nearer than this is called as a number of metres. # common practice
SMALLEST_DISTANCE_M, FARTHEST_M = 10, 3000
DISTANCE_DIGITS = len(str(FARTHEST_M))
# What a figure costs that is no number of the trade, nats.
UNREAD_FIGURE = 0.4
# A distance this odd is none that anybody calls: in what was said it is a clue to something else, no distance.
NOBODY_CALLS = 2.0
# And one this odd is no usual one.
ODD = 0.5
HEARD, FIRST_UNLIKE, PER_UNLIKE = 1.1, 0.9, 3.2
SIX_TO_THREE = 0.9
# "Tight three" behind a corner: a change, where nothing else speaks for half a grade.
TIGHT_THREE = 0.5
STUCK, TEEN, ZERO_LOST, ZERO_ADDED = 1.2, 0.7, 2.4, 1.4
# How unlike a teen is to the tens that it is heard as, from 0 for alike to 1.
TEEN_UNLIKE = 0.1
# A distance said in two breaths, and one said twice.
TWO_BREATHS, STUTTERED = 0.4, 0.3
CUT_OFF = 2.2
# How a word follows the one before: behind a space, directly, or behind a comma or stop, which a recogniser sets where there is breath
# and often where there is none: it tips what is even otherwise.
APART, TOUCHES, PARTED = 0, 1, 2
TORN = 0.5
# A feature is counted up to this: "over two crests".
COUNTED = (2, 3, 4)
# Marks that part words and say nothing; any other mark of a written text that no term has is asked about.
PUNCTUATION = frozenset(".,;:…\"“”„«»'‘’´`()[]{}-–—·•|_")


@dataclass(frozen=True)
class Choice:
    """One way to read some words: ``parts`` are (kind, key).

    ``how`` is empty where they are read as they stand, else what the repair goes by: ``heard``, ``sound``, ``stuck``,
    ``teen``, ``zero`` or ``book``; ``why`` says so in a sentence and ``unlike`` how far apart the two sound, 0 to 1. ``cut_off`` is a
    number that is the head of a longer one.
    """

    taken: int
    parts: tuple[tuple[str, str], ...]
    cost: float
    why: Message | str = ""
    read_as: str = ""
    how: str = ""
    unlike: float = 0.0
    cut_off: bool = False


class Repair(NamedTuple):
    """What it costs to read words as something else, what that goes by, why in a sentence, and how unlike they sound."""

    cost: float = 0.0
    how: str = ""
    why: Message | str = ""
    unlike: float = 0.0


AS_IT_STANDS = Repair()


Barred = Callable[[int, Choice], bool]
Fixed = Mapping[int, Choice]


@dataclass(frozen=True)
class Step:
    """One reading of the cheapest path: at which word, in which state of the grammar, and what it cost there."""

    at: int
    state: grammar.State
    choice: Choice
    cost: float


class _Entry(NamedTuple):
    """The cheapest way to a place in a state: its whole cost, where it came from, and the reading that led here with its own cost."""

    whole: float
    before: int
    state_before: grammar.State
    reading: Choice | None
    step: float


def _nothing_barred(_at: int, _choice: Choice) -> bool:
    return False


@dataclass
class Reader:
    """Reads words of one language and order.

    ``spoken`` leaves short-hand out and lets sounds be repaired; ``usual`` are odd distances that this crew does call,
    ``leave`` words that shall stay as they are.
    """

    language: Language
    grade_first: bool
    spoken: bool
    usual: frozenset[int] = frozenset()
    leave: frozenset[str] = frozenset()
    _known: dict[tuple[str, ...], list[Choice]] = field(default_factory=dict)
    sounds: SoundsAlike = field(init=False)

    def __post_init__(self) -> None:
        self.sounds = SoundsAlike(self.language, self.leave)

    def best(self, words: Sequence[str], joints: Sequence[int]) -> list[Choice]:
        """The cheapest way to read all words; ``joints`` says how each follows the one before: ``APART``, ``TOUCHES`` or ``PARTED``."""
        return [step.choice for step in self.path(words, joints)]

    def path(
        self,
        words: Sequence[str],
        joints: Sequence[int],
        *,
        barred: Barred = _nothing_barred,
        fixed: Fixed | None = None,
        start: grammar.State = grammar.START,
    ) -> list[Step]:
        """The cheapest way to read all words, step by step (Viterbi's algorithm).

        Parameters
        ----------
        joints : how each word follows the one before: ``APART`` (by a space), ``TOUCHES`` or ``PARTED`` (by a mark)
        barred : tells which readings at which word are not allowed
        fixed : the only reading at some words, which nothing else may reach across
        start : the state of the grammar ahead of the first word
        """
        fixed = fixed or {}
        if self.spoken and len(words) > AT_ONCE:
            self.sounds.hear(joined for at in range(len(words)) for _, joined in self.sounds.spans(words, at, plainly=False))
        table: list[dict[grammar.State, _Entry]] = [{} for _ in range(len(words) + 1)]
        table[0][start] = _Entry(0.0, -1, start, None, 0.0)
        for at in range(len(words)):
            if table[at]:
                for reading in self.allowed(words, at, joints[at] == TOUCHES, barred, fixed):
                    self._follow(table[at], table[at + reading.taken], at, reading, joints)
        return _traced_back(table)

    def _follow(
        self, here: dict[grammar.State, _Entry], ahead: dict[grammar.State, _Entry], at: int, reading: Choice, joints: Sequence[int]
    ) -> None:
        """Enters what one reading of the words at a place leads to, from each state there, where it is cheaper than what was known."""
        end = at + reading.taken
        cost = reading.cost + TORN * (PARTED in joints[at + 1 : end])
        # "Three, hundred": not the head of three hundred.
        cost -= CUT_OFF * (reading.cut_off and PARTED in joints[end : end + 1])
        for state, (so_far, *_) in here.items():
            step, after = cost, state
            for kind, key in reading.parts:
                named = kind == "grade" and not key[0].isdigit()
                added, after = grammar.step(after, kind, named, self.grade_first)
                step += added
            if after not in ahead or so_far + step < ahead[after].whole:
                ahead[after] = _Entry(so_far + step, at, state, reading, step)

    def allowed(
        self, words: Sequence[str], at: int, touching: bool, barred: Barred = _nothing_barred, fixed: Fixed | None = None
    ) -> list[Choice]:
        """The ways to read what begins at ``words[at]`` that are neither barred nor reach across a fixed word."""
        fixed = fixed or {}
        only = fixed.get(at) or self._as_it_stands(words, at, touching)
        if only is not None:
            return [only]
        found = self._readings_in_place(words, at, touching)
        return [r for r in found if not barred(at, r) and not any(at + i in fixed for i in range(1, r.taken))]

    def _readings_in_place(self, words: Sequence[str], at: int, touching: bool) -> list[Choice]:
        """The readings that what stands in front allows."""
        found = self.readings(words, at, touching)
        return [r for r in found if r.parts[0][0] != "direction"] if joins_a_number(words, at, self.language) else found

    def _as_it_stands(self, words: Sequence[str], at: int, touching: bool) -> Choice | None:
        """The only way to read a short form of a written text that is not what it looks like; ``None`` for any other word."""
        # Where the grade stands first, another corner's may stand behind a side.
        if self.spoken or self.grade_first:
            return None
        if touching and is_figure_of_no_grade(words, at, self.language):
            return Choice(1, (("asked", words[at]),), 0.0)
        return Choice(1, (("unread", words[at]),), 0.0) if is_no_side(words, at, touching, self.language) else None

    def readings(self, words: Sequence[str], at: int, touching: bool) -> list[Choice]:
        """Every way to read what begins at ``words[at]``."""
        window = (*words[at : at + 6], "touching") if touching else tuple(words[at : at + 6])
        found = self._known.get(window)
        if found is None:
            found = self._known[window] = self._readings(words, at, touching)
        return found

    def _readings(self, words: Sequence[str], at: int, touching: bool) -> list[Choice]:
        word = words[at]
        if word.isdecimal() and len(word) <= MOST_DIGITS:
            return self._readings_of_figures(words, at)
        matches = [m for m in self.language.matches(words, at) if self._may_stand(m, word, touching)]
        plainly = any(m.way != "heard" for m in matches)
        found = [*self._of_matches(matches, words, at), *self._tight_or_on_to(words, at)]
        if word in self.language.leading_on:
            found += [Choice(1, (("lead", word),), 0.0), *self._six_to_three(words, at)]
        if word[0].isalnum():
            found += self._sounding_alike(words, at, plainly) if self.spoken else []
        elif plainly:
            return found
        return [*found, Choice(1, ((self._unread(word, plainly), word),), 0.0)]

    def _readings_of_figures(self, words: Sequence[str], at: int) -> list[Choice]:
        taught = [r for m in self.language.matches(words, at) for r in self._of_term(m.term, m.taken)]
        unread = Choice(1, (("unread" if self.spoken else "unread figure", words[at]),), UNREAD_FIGURE)
        return [*taught, *self._figures(words, at), unread]

    def _unread(self, word: str, plainly: bool) -> str:
        """What a word is that stays as it stands; one that is one of theirs only where nothing else will do."""
        if word[0].isalnum():
            return "unread word of theirs" if plainly else "unread"
        return "blank" if self.spoken or word[0] in PUNCTUATION else "unread"

    def _of_matches(self, matches: Sequence[Match], words: Sequence[str], at: int) -> Iterator[Choice]:
        """The readings of terms whose forms begin at a place."""
        numbers = [(m.taken, int(m.term.key)) for m in self.language.matches(words, at) if m.term.kind == "number"]
        longest = max((taken for taken, value in numbers if self._odd(value) < ODD), default=0)
        for match in matches:
            term, end = match.term, at + match.taken
            is_number = term.kind == "number"
            if is_number:
                yield from self._counted(int(term.key), words, end, match.taken)
                yield from self._two_breaths(int(term.key), words, end, match.taken)
            leads_on = match.taken > 1 and words[end - 1] in self.language.leading_on
            for choice in self._of_term(term, match.taken, self._price(match, words, at), leads_on=leads_on):
                yield _cut_off(choice) if is_number and match.taken < longest else choice

    def _six_to_three(self, words: Sequence[str], at: int) -> list[Choice]:
        """ "Six to three": a change of radius called by its two grades alone, nearly always to a tighter one."""
        if words[at] not in self.language.to_words or at + 1 >= len(words):
            return []
        number = self._small(words, at + 1)
        if number:
            return [Choice(2, (("change", "tightens"), ("change grade", number)), SIX_TO_THREE)]
        half, taken = self._half(words, at + 1)
        number = self._small(words, at + 1 + taken)
        # "Five to tight two": half a grade tighter than a two.
        return [Choice(2 + taken, (("change", "tightens"), ("change grade", number + half)), SIX_TO_THREE)] if half and number else []

    def _tight_or_on_to(self, words: Sequence[str], at: int) -> list[Choice]:
        """ "Right six, tight three" tightens to a three; "left six continues five" goes on as one."""
        out = []
        half, taken = self._half(words, at)
        if half == "-" and taken and words[at].isalpha() and (number := self._small(words, at + taken)):
            out.append(Choice(taken + 1, (("change", "tightens"), ("change grade", number)), TIGHT_THREE))
        for match in self.language.matches(words, at):
            if match.term.key == "continues" and (number := self._small(words, at + match.taken)):
                out.append(Choice(match.taken + 1, (("change", "continues"), ("change grade", number)), 0.0))
        return out

    def _small(self, words: Sequence[str], at: int) -> str:
        """The number at a place if it may be a grade of one figure; empty where it is none."""
        word = words[at] if at < len(words) else ""
        if word.isdecimal():
            return word if len(word) == 1 and word != "0" else ""
        return self.language.number_of(word) if word in self.language.small_numbers else ""

    def _half(self, words: Sequence[str], at: int) -> tuple[str, int]:
        """The half that stands at a place in words, as its sign, and how many words it has; nothing where there is none."""
        for match in self.language.matches(words, at):
            if match.term.kind == "half" and match.way == "said":
                return HALF_SIGNS[match.term.key], match.taken
        return "", 0

    def _may_stand(self, match: Match, word: str, touching: bool) -> bool:
        if match.way == "heard":
            return self.spoken and word not in self.leave
        if match.way == "written" and match.term.kind == "half" and word[0] in "-−":
            # A dash between words is no minus.
            return touching
        return not (self.spoken and match.way == "written" and word != "+")

    def _price(self, match: Match, words: Sequence[str], at: int) -> Repair:
        """What a form costs; nothing where it is said or written."""
        if match.way != "heard":
            return AS_IT_STANDS
        heard = words[at : at + match.taken]
        forms = (f.replace(" ", "") for f in match.term.said)
        unlike = min((self.language.unlikeness("".join(heard), f) for f in forms), default=0.0)
        cost = min(HEARD, FIRST_UNLIKE + PER_UNLIKE * unlike - 0.01)
        return Repair(cost, "heard", message("“{0}” is often heard for it", " ".join(heard)), unlike)

    def _of_term(self, term: Term, taken: int, repair: Repair = AS_IT_STANDS, *, leads_on: bool = False) -> list[Choice]:
        if term.kind == "number":
            return self._number(int(term.key), taken, repair)
        if term.kind == "grade" and not repair.how:
            # "Tightens to square": a change may lead to a grade that is a word.
            return [Choice(taken, ((kind, term.key),), repair.cost) for kind in ("grade", "change grade")]
        if term.kind == "corner":
            side, _, grade = term.key.partition(" ")
            return [Choice(taken, (("direction", side), ("grade", grade)), repair.cost)]
        kind = term.kind
        if kind == "change" and leads_on:
            # "tightens to" leads to a grade.
            kind = "change to"
        read_as = (term.said or (term.key,))[0] if repair.how else ""
        return [Choice(taken, ((kind, term.key),), repair.cost, repair.why, read_as, repair.how, repair.unlike)]

    def _number(self, value: int, taken: int, repair: Repair = AS_IT_STANDS) -> list[Choice]:
        """A number as a grade, as what a change leads to, and as a distance; spoken, as another distance that sounds like it."""
        cost, how, why, unlike = repair
        read_as = str(value) if how else ""
        kinds = [("grade", cost), ("change grade", cost)] if 1 <= value <= LARGEST_GRADE else []
        odd = self._odd(value)
        if SMALLEST_DISTANCE_M <= value <= FARTHEST_M and not (self.spoken and odd >= NOBODY_CALLS):
            kinds.append(("distance", cost + odd))
        out = [Choice(taken, ((kind, str(value)),), price, why, read_as, how, unlike) for kind, price in kinds]
        return [*out, *self._teens(value, taken, cost)] if self.spoken and value not in self.usual else out

    def _teens(self, value: int, taken: int, cost: float) -> Iterator[Choice]:
        """The distances that sound like another, as thirteen does like thirty."""
        for heard, meant in self.language.teens:
            if value == heard:
                why = message("{0} sounds like {1}", heard, meant)
                yield Choice(taken, (("distance", str(meant)),), cost + TEEN, why, str(meant), "teen", TEEN_UNLIKE)

    def _odd(self, metres: int) -> float:
        return 0.0 if metres in self.usual else unusual(metres)

    def _figures(self, words: Sequence[str], at: int) -> list[Choice]:
        word = words[at]
        value = int(word)
        out = self._number(value, 1) if len(word) < 5 else []
        out += self._counted(value, words, at + 1, 1)
        if not self.spoken:
            return out
        out += self._two_breaths(value, words, at + 1, 1)
        if 2 <= value <= 9:
            meant = str(10 * value)
            out.append(Choice(1, (("distance", meant),), ZERO_LOST, "a zero seems to be lost", meant, "zero"))
        if value % 100 == 0 and 1000 <= value <= 90_000:
            meant = str(value // 10)
            cost = ZERO_ADDED + unusual(value // 10)
            out.append(Choice(1, (("distance", meant),), cost, "a zero seems to be too many", meant, "zero"))
        return out + self._stuck(word)

    def _counted(self, value: int, words: Sequence[str], following: int, taken: int) -> list[Choice]:
        """A number that counts the features behind it: "over two crests"."""
        if value not in COUNTED or following >= len(words) or words[following] not in self.language.plurals:
            return []
        return [Choice(taken, (("count", str(value)),), 0.0)]

    def _two_breaths(self, value: int, words: Sequence[str], following: int, taken: int) -> list[Choice]:
        """A distance said in two breaths ("one, thirty"; "100, 60") or twice ("60, 60"); ``taken`` words said ``value``."""
        if not self.spoken or following >= len(words):
            return []
        second = words[following]
        if second == words[following - taken] and taken == 1 and value >= SMALLEST_DISTANCE_M:
            return [Choice(2, (("distance", str(value)),), STUTTERED + self._odd(value))]
        added = self.language.tens_of(second)
        # A figure counts hundreds; whole hundreds are such already.
        hundreds = 100 * value if 1 <= value <= 9 else value if value % 100 == 0 and value < 1000 else 0
        if not added or not hundreds:
            return []
        return [Choice(taken + 1, (("distance", str(hundreds + added)),), TWO_BREATHS + self._odd(hundreds + added))]

    def _stuck(self, word: str) -> list[Choice]:
        """Two numbers written as one: a grade and the distance after it, or a distance and the grade after it."""
        out = []
        if 3 <= len(word) <= 4:
            halves = ((word[0], word[1:], ("grade", "distance")), (word[:-1], word[-1], ("distance", "grade")))
            for first, second, kinds in halves:
                grade, metres = (first, second) if kinds[0] == "grade" else (second, first)
                if grade == "0" or metres[0] == "0" or not SMALLEST_DISTANCE_M <= int(metres) <= FARTHEST_M:
                    continue
                cost, said = STUCK + unusual(int(metres)), f"{first} {second}"
                whole = Choice(
                    1, tuple(zip(kinds, (first, second), strict=True)), cost, message("two numbers stuck together"), said, "stuck"
                )
                out.append(whole)
                if kinds[0] == "grade":
                    parts = (("change grade", first), whole.parts[1])
                    out.append(Choice(1, parts, cost, whole.why, said, "stuck"))
        return out

    def _sounding_alike(self, words: Sequence[str], at: int, plainly: bool) -> list[Choice]:
        """Terms that sound like the next one to three words, of which at least one is no word of the language."""
        out: list[Choice] = []
        for taken, joined in self.sounds.spans(words, at, plainly):
            for term, form_words, unlike in self.sounds.nearest(joined):
                cost = FIRST_UNLIKE + PER_UNLIKE * unlike + 0.4 * abs(taken - form_words)
                why = message("sounds like “{0}”", term.said[0])
                out += self._of_term(term, taken, Repair(cost, "sound", why, unlike))
        return out


def _traced_back(table: Sequence[dict[grammar.State, _Entry]]) -> list[Step]:
    """The steps of the cheapest way through a table, from its last place back to the first."""
    state = min(table[-1], key=lambda s: table[-1][s].whole + grammar.end_cost(s))
    at, path = len(table) - 1, []
    while at > 0:
        _, before, state_before, found, step = table[at][state]
        assert found is not None
        path.append(Step(before, state_before, found, step))
        at, state = before, state_before
    return path[::-1]


def _cut_off(choice: Choice) -> Choice:
    """A grade that is the head of a usual distance is dearer: "one" is seldom a grade ahead of "hundred"."""
    return replace(choice, cost=choice.cost + CUT_OFF, cut_off=True) if choice.parts[0][0] == "grade" else choice


# Cost (nats) of a distance by how round it is: the first row counts whose step divides it and whose limit it does not pass (m). Other
# distances, and those above the last limit, are called by nobody. # common practice
ROUND_DISTANCES = ((10, 200, 0.0), (50, 1000, 0.1), (10, 1000, 0.6), (5, 99, 0.8))
SELDOM_ABOVE_M, NEVER_HEARD = 1000, 2.2


def unusual(metres: int) -> float:
    """How odd a called distance is; one that nobody calls (93, 412) is a clue that something else was said."""
    if metres > SELDOM_ABOVE_M:
        return NEVER_HEARD
    return next((cost for step, below, cost in ROUND_DISTANCES if metres % step == 0 and metres <= below), NEVER_HEARD)
