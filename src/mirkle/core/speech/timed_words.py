"""When each word was said: a block's time shared out by syllables, with pauses between notes."""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from mirkle.core.notes.model import Note, Span
from mirkle.core.notes.tokens import Word, split_words

# A co-driver says four to six syllables a second. # common practice
SECONDS_A_SYLLABLE = 0.2
_VOWELS = re.compile(r"[aeiouyáéíóúâêôãõà]+", re.IGNORECASE)
_SYLLABLES_OF_A_FIGURE = 1.4
# A cue shorter than this is one breath.
BREATH_S = 8.0
# A last block without an end lasts this many times what its words take; the shortest block (s). Standard deviation of a word's time: a
# constant (s) plus a share of its block, more where the block's end is only the start of the next. # from memory
LAST_LASTS, SHORTEST_S, CUE_SD_S, OF_A_BLOCK, OF_AN_OPEN_BLOCK = 1.5, 0.05, 0.1, 0.08, 0.22


@dataclass(frozen=True)
class Block:
    """A stretch of the source, characters ``span``, said from ``start_s`` on; ``end_s`` is ``None`` where unknown."""

    start_s: float
    end_s: float | None
    span: Span


@dataclass
class TimedWord:
    """A word of the stream with its time."""

    word: Word
    at_s: float
    end_s: float
    uncertainty_s: float


def timed_words(source: str, blocks: Sequence[Block]) -> list[TimedWord]:
    """Every word with a time: its block's time shared out by syllables."""
    out: list[TimedWord] = []
    for block, following in zip(blocks, [*blocks[1:], None], strict=True):
        text = source[block.span.start : block.span.end]
        words = [w._replace(span=Span(w.span.start + block.span.start, w.span.end + block.span.start), line=1) for w in split_words(text)]
        syllables = [_syllables(w.text) for w in words]
        total = sum(syllables)
        spoken_s = total * SECONDS_A_SYLLABLE
        end_s = block.end_s
        if end_s is None:
            # Coarse blocks follow each other without a gap; the last one lasts as long as its words do.
            end_s = following.start_s if following is not None else block.start_s + LAST_LASTS * spoken_s
        length_s = max(end_s - block.start_s, SHORTEST_S)
        uncertainty_s = CUE_SD_S + (OF_A_BLOCK if block.end_s is not None else OF_AN_OPEN_BLOCK) * length_s
        done = 0.0
        for word, share in zip(words, syllables, strict=True):
            at_s = block.start_s + length_s * done / max(total, 1)
            done += share
            out.append(TimedWord(word, at_s, block.start_s + length_s * done / max(total, 1), uncertainty_s))
    return out


def put_pauses_between_notes(stream: list[TimedWord], blocks: Sequence[Block], notes: Sequence[Note]) -> None:
    """Times of coarse blocks once the notes are known: words follow each other, and pauses lie ahead of notes; in place."""
    starts = {n.span.start for n in notes}
    for block, following, inside in zip(blocks, [*blocks[1:], None], _by_block(stream, blocks), strict=True):
        if block.end_s is None and following is not None:
            _space_out(inside, block.start_s, following.start_s, starts)


def _by_block(stream: Sequence[TimedWord], blocks: Sequence[Block]) -> Iterator[list[TimedWord]]:
    """The words of each block."""
    at = 0
    for block in blocks:
        end = at
        while end < len(stream) and stream[end].word.span.start < block.span.end:
            end += 1
        yield list(stream[at:end])
        at = end


def _space_out(inside: Sequence[TimedWord], from_s: float, to_s: float, starts: set[int]) -> None:
    """Times of words that are said from one moment to another: what is left of the time lies ahead of notes; in place."""
    borders = [i for i, t in enumerate(inside) if i and t.word.span.start in starts]
    spoken_s = [_syllables(t.word.text) * SECONDS_A_SYLLABLE for t in inside]
    spare_s = to_s - from_s - sum(spoken_s)
    if not borders or spare_s <= 0:
        return
    at_s = from_s
    for i, (timed, seconds) in enumerate(zip(inside, spoken_s, strict=True)):
        at_s += spare_s / len(borders) * (i in borders)
        timed.at_s, timed.end_s = at_s, at_s + seconds
        at_s += seconds


def _syllables(text: str) -> float:
    if text.isdecimal():
        return _SYLLABLES_OF_A_FIGURE * max(1, len(text.rstrip("0")) + (len(text) > 1))
    return float(max(1, len(_VOWELS.findall(text)))) if text[0].isalpha() else 0.0


def same_block(blocks: Sequence[Block]) -> Callable[[Note, Note], bool]:
    """Whether two notes were said in one cue of a few seconds."""
    starts = [b.span.start for b in blocks]

    def same(a: Note, b: Note) -> bool:
        at = bisect_right(starts, a.span.start) - 1
        end_s = blocks[at].end_s
        return at == bisect_right(starts, b.span.start) - 1 and end_s is not None and end_s - blocks[at].start_s < BREATH_S

    return same
