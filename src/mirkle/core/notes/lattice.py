"""From words to terms: every way to read each word, and the cheapest way through all of them.

Words as they stand cost nothing; a form that a recogniser is known to make, a form that sounds alike, two numbers stuck
together and a zero too many cost by how unlikely they are. :mod:`mirkle.core.notes.grammar` adds what may stand where,
and a Viterbi search finds the cheapest path, in time linear in the text. What no reading makes sense of stays unread.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from mirkle.core.notes import grammar
from mirkle.core.notes.language import Language, Match, Term
from mirkle.core.notes.sound import unlikeness

LARGEST_GRADE = 10
# Nothing nearer than this is called as a number of metres. # common practice
SMALLEST_DISTANCE_M, FARTHEST_M = 10, 3000
HEARD, FIRST_UNLIKE, PER_UNLIKE, MOST_UNLIKE = 1.1, 0.9, 3.2, 0.42
SIX_TO_THREE = 0.9
STUCK, TEEN, ZERO_LOST, ZERO_ADDED = 1.2, 0.7, 2.4, 1.4
LONGEST_REPAIR = 3


@dataclass(frozen=True)
class Choice:
    """One way to read some words: ``parts`` are (kind, key); ``why`` is empty where they were read as they stand."""

    taken: int
    parts: tuple[tuple[str, str], ...]
    cost: float
    why: str = ""
    read_as: str = ""


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
    _alike: dict[str, list[tuple[Term, float, int]]] = field(default_factory=dict)

    def best(self, words: Sequence[str], touches: Sequence[bool]) -> list[Choice]:
        """The cheapest way to read all words; ``touches`` says which follow the one before without a space."""
        # One table for each place: state -> (cost, place before, state before, reading).
        Step = tuple[float, int, grammar.State, Choice | None]
        table: list[dict[grammar.State, Step]] = [{} for _ in range(len(words) + 1)]
        table[0][grammar.START] = (0.0, -1, grammar.START, None)
        for at in range(len(words)):
            here = table[at]
            if not here:
                continue
            for reading in self.readings(words, at, touches[at]):
                ahead = table[at + reading.taken]
                for state, (so_far, *_) in here.items():
                    cost, after = so_far + reading.cost, state
                    for kind, key in reading.parts:
                        named = kind == "grade" and not key[0].isdigit()
                        added, after = grammar.step(after, kind, named, self.grade_first)
                        cost += added
                    if after not in ahead or cost < ahead[after][0]:
                        ahead[after] = (cost, at, state, reading)
        state = min(table[-1], key=lambda s: table[-1][s][0] + grammar.end_cost(s))
        at, path = len(words), []
        while at > 0:
            _, before, state_before, found = table[at][state]
            assert found is not None
            path.append(found)
            at, state = before, state_before
        return path[::-1]

    def readings(self, words: Sequence[str], at: int, touching: bool) -> list[Choice]:
        """Every way to read what begins at ``words[at]``."""
        window = (*words[at : at + 6], "touching") if touching else tuple(words[at : at + 6])
        found = self._known.get(window)
        if found is None:
            found = self._known[window] = self._readings(words, at, touching)
        return found

    def _readings(self, words: Sequence[str], at: int, touching: bool) -> list[Choice]:
        word = words[at]
        if word.isdecimal():
            return [*self._figures(word), Choice(1, (("unread", word),), 0.4)]
        found: list[Choice] = []
        plainly = False
        for match in self.language.matches(words, at):
            if not self._may_stand(match, word, touching):
                continue
            plainly |= match.way != "heard"
            leads_on = match.taken > 1 and words[at + match.taken - 1] in self.language.leading_on
            found += self._of_term(match.term, match.taken, *self._price(match, words, at), leads_on=leads_on)
        if word in self.language.leading_on:
            found.append(Choice(1, (("lead", word),), 0.0))
            found += self._six_to_three(words, at)
        if not word[0].isalnum():
            return found if plainly else [*found, Choice(1, (("blank", word),), 0.0)]
        found += self._sounding_alike(words, at, plainly)
        # A word that is one of theirs is left unread only where nothing else will do.
        return [*found, Choice(1, (("unread word of theirs" if plainly else "unread", word),), 0.0)]

    def _six_to_three(self, words: Sequence[str], at: int) -> list[Choice]:
        """ "Six to three": a change of radius called by its two grades alone, nearly always to a tighter one."""
        if words[at] not in self.language.to_words or at + 1 >= len(words):
            return []
        grade = words[at + 1]
        if not (grade.isdecimal() and len(grade) == 1 and grade != "0") and grade not in self.language.small_numbers:
            return []
        number = grade if grade.isdecimal() else self.language.number_of(grade)
        return [Choice(2, (("change", "tightens"), ("change grade", number)), SIX_TO_THREE)]

    def _may_stand(self, match: Match, word: str, touching: bool) -> bool:
        if match.way == "heard" and word in self.leave:
            return False
        if match.way == "written" and match.term.kind == "half" and word in "-−":
            # A dash between words is no minus.
            return touching
        return not (self.spoken and match.way == "written" and word != "+")

    def _price(self, match: Match, words: Sequence[str], at: int) -> tuple[float, str]:
        if match.way != "heard":
            return 0.0, ""
        heard = " ".join(words[at : at + match.taken])
        return HEARD + (0.0 if self.spoken else 1.0), f"“{heard}” is often heard for it"

    def _of_term(self, term: Term, taken: int, cost: float, why: str, *, leads_on: bool = False) -> list[Choice]:
        if term.kind == "number":
            return self._number(int(term.key), taken, cost, why)
        kind = term.kind
        if kind == "change" and leads_on:
            # "tightens to" leads to a grade.
            kind = "change to"
        read_as = (term.said or (term.key,))[0] if why else ""
        return [Choice(taken, ((kind, term.key),), cost, why, read_as)]

    def _number(self, value: int, taken: int, cost: float, why: str) -> list[Choice]:
        read_as = str(value) if why else ""
        out = []
        if 1 <= value <= LARGEST_GRADE:
            out += [Choice(taken, ((kind, str(value)),), cost, why, read_as) for kind in ("grade", "change grade")]
        if SMALLEST_DISTANCE_M <= value <= FARTHEST_M:
            out.append(Choice(taken, (("distance", str(value)),), cost + self._odd(value), why, read_as))
        for heard, meant in self.language.teens if self.spoken else ():
            if value == heard and value not in self.usual:
                reason = f"{heard} sounds like {meant}"
                out.append(Choice(taken, (("distance", str(meant)),), cost + TEEN, reason, str(meant)))
        return out

    def _odd(self, metres: int) -> float:
        return 0.0 if metres in self.usual else unusual(metres)

    def _figures(self, word: str) -> list[Choice]:
        value = int(word)
        out = self._number(value, 1, 0.0, "") if len(word) < 5 else []
        if not self.spoken:
            return out
        if 2 <= value <= 9:
            meant = str(10 * value)
            out.append(Choice(1, (("distance", meant),), ZERO_LOST, "a zero seems to be lost", meant))
        if value % 100 == 0 and 1000 <= value <= 90_000:
            meant = str(value // 10)
            cost = ZERO_ADDED + unusual(value // 10)
            out.append(Choice(1, (("distance", meant),), cost, "a zero seems to be too many", meant))
        return out + self._stuck(word)

    def _stuck(self, word: str) -> list[Choice]:
        """Two numbers written as one: a grade and the distance after it, or a distance and the grade after it."""
        out = []
        if 3 <= len(word) <= 4:
            halves = ((word[0], word[1:], ("grade", "distance")), (word[:-1], word[-1], ("distance", "grade")))
            for first, second, kinds in halves:
                grade, metres = (first, second) if kinds[0] == "grade" else (second, first)
                if grade == "0" or metres[0] == "0" or not SMALLEST_DISTANCE_M <= int(metres) <= FARTHEST_M:
                    continue
                parts = tuple(zip(kinds, (first, second), strict=True))
                cost = STUCK + unusual(int(metres))
                out.append(Choice(1, parts, cost, "two numbers stuck together", f"{first} {second}"))
                if kinds[0] == "grade":
                    out.append(Choice(1, (("change grade", first), parts[1]), cost, "two numbers stuck together",
                                        f"{first} {second}"))  # fmt: skip
        return out

    def _sounding_alike(self, words: Sequence[str], at: int, plainly: bool) -> list[Choice]:
        """Terms that sound like the next one to three words, of which at least one is no word of the language."""
        out: list[Choice] = []
        for taken in range(1, LONGEST_REPAIR + 1):
            span = words[at : at + taken]
            if len(span) < taken or not all(w[0].isalpha() and w not in self.leave for w in span):
                break
            if (taken == 1 and plainly) or all(self._is_word(w) for w in span):
                continue
            if taken > 1 and any(self._stands_alone(w) for w in span):
                break
            for term, unlike, form_words in self._nearest("".join(span)):
                cost = FIRST_UNLIKE + PER_UNLIKE * unlike + 0.4 * abs(taken - form_words)
                cost += 0.0 if self.spoken else 1.0
                out += self._of_term(term, taken, cost, f"sounds like “{term.said[0]}”")
        return out

    def _is_word(self, word: str) -> bool:
        return any(m.taken == 1 and m.way != "heard" for m in self.language.matches([word], 0))

    def _stands_alone(self, word: str) -> bool:
        """Whether a word means something by itself, so that no other word was torn apart to make it."""
        return any(
            m.taken == 1 and m.term.kind not in ("half", "filler", "link", "over")
            for m in self.language.matches([word], 0)
        )

    def _nearest(self, joined: str) -> list[tuple[Term, float, int]]:
        found = self._alike.get(joined)
        if found is None:
            rules = self.language.sound_rules
            found = []
            # A word of two or three letters sounds like too many others.
            if 4 <= len(joined) <= 24:
                for form, (term, count) in self.language.vocabulary.items():
                    if (
                        abs(len(form) - len(joined)) <= 3
                        and len(form) >= 3
                        and term.kind not in ("chat", "link", "over")
                    ):
                        unlike = unlikeness(joined, form, rules)
                        if unlike <= MOST_UNLIKE:
                            found.append((term, unlike, count))
                found = sorted(found, key=lambda f: f[1])[:3]
            self._alike[joined] = found
        return found


def unusual(metres: int) -> float:
    """How odd a called distance is; one that nobody calls (93, 412) is a clue that something else was said."""
    if metres > 1000:
        return 2.2
    if metres % 10 == 0:
        return 0.0 if metres <= 200 else 0.1 if metres % 50 == 0 else 0.6
    return 0.8 if metres % 5 == 0 and metres < 100 else 2.2
