"""What was said in the car, as timed text: WebVTT, SRT, blocks of ``[m:ss] words``, and JSON with word times."""

from __future__ import annotations

import json
import re
from itertools import pairwise
from typing import Any

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.crew import Crew
from mirkle.core.notes.model import Reading, Span
from mirkle.core.notes.speech import Speech, read_speech
from mirkle.core.notes.timing import Block
from mirkle.files.crew import shipped_crew
from mirkle.files.sniff import LARGEST_TEXT_BYTES, decoded, unpacked

WANTED = "what was said, as WebVTT, SRT or lines of [m:ss] words"
_CUE = re.compile(
    r"^[ \t]*((?:\d+:)?\d{1,2}:\d{2}[.,]\d{1,3})[ \t]*-->[ \t]*((?:\d+:)?\d{1,2}:\d{2}[.,]\d{1,3}).*$", re.M
)
_STAMP = re.compile(r"^[ \t]*[\[(](\d{1,2}(?::\d{2}){1,2}(?:[.,]\d+)?)[\])]", re.M)
_TAG = re.compile(r"<[^<>\n]{0,80}>|\{\\[^{}\n]{0,40}\}")


def looks_like_calls(text: str) -> bool:
    """Whether a text is timed: cues, stamps at the heads of lines, or JSON with words."""
    head = text[:4000]
    return bool(_CUE.search(head) or _STAMP.search(head)) or (
        head.lstrip().startswith(("{", "[{")) and '"start"' in head and ('"word"' in head or '"text"' in head)
    )


def parse_calls(content: bytes, *, name: str, crew: Crew | None = None, book: Reading | None = None) -> Speech:
    """The calls in a timed text's bytes, read against the ``book`` that was read from where there is one.

    Raises
    ------
    UnusableFile, UnusableNotes
        With the file, what is wrong and what would mend it.
    """
    content = unpacked(content, name=name, largest=LARGEST_TEXT_BYTES, wanted=WANTED)
    source, blocks = timed_blocks(decoded(content, name=name), name=name)
    try:
        return read_speech(source, blocks, crew or shipped_crew(), book=book)
    except UnusableNotes as fault:
        raise UnusableNotes(fault.what, mend=fault.mend, where=name) from None


def timed_blocks(text: str, *, name: str) -> tuple[str, list[Block]]:
    """A timed text's source and its blocks, in the order of time.

    Raises
    ------
    UnusableNotes
        There is no time in it, or times go back for good.
    """
    if text.lstrip().startswith(("{", "[{")):
        return _json_blocks(text, name=name)
    blocks = _cue_blocks(text) if _CUE.search(text) else _stamp_blocks(text)
    if not blocks:
        raise UnusableNotes(
            "there are no times in it", mend="give WebVTT, SRT, or lines that begin with [m:ss]", where=name
        )
    back = sum(b.start_s < a.start_s - 1.0 for a, b in pairwise(blocks))
    if back > 0.1 * len(blocks) + 1:
        raise UnusableNotes("its times go back again and again", mend="export it again in order", where=name)
    return text, sorted(blocks, key=lambda b: b.start_s) if back == 0 else blocks


def _cue_blocks(text: str) -> list[Block]:
    blocks: list[Block] = []
    cues = list(_CUE.finditer(text))
    for cue, following in zip(cues, [*cues[1:], None], strict=True):
        start = min(cue.end() + 1, len(text))
        end = _end_of_cue(text, start, following.start() if following else len(text))
        # A recogniser's own tags are no words: the block goes on behind each.
        at = start
        for tag in _TAG.finditer(text, start, end):
            if tag.start() > at:
                blocks.append(Block(_seconds(cue[1]), _seconds(cue[2]), Span(at, tag.start())))
            at = tag.end()
        blocks.append(Block(_seconds(cue[1]), _seconds(cue[2]), Span(at, max(at, end))))
    return [b for b in blocks if text[b.span.start : b.span.end].strip()]


def _end_of_cue(text: str, start: int, limit: int) -> int:
    """A cue ends at the empty line behind it; what follows up to the next cue is that cue's name or a comment."""
    empty = re.compile(r"\n[ \t]*\n").search(text, max(0, start - 1), limit)
    return max(start, empty.start()) if empty else limit


def _stamp_blocks(text: str) -> list[Block]:
    stamps = list(_STAMP.finditer(text))
    ends = [s.start() for s in stamps[1:]] + [len(text)] * bool(stamps)
    # A stamp of whole seconds was cut off, half a second on the whole.
    return [
        Block(_seconds(s[1]) + 0.5 * ("." not in s[1] and "," not in s[1]), None, Span(s.end(), end))
        for s, end in zip(stamps, ends, strict=True)
    ]


def _seconds(stamp: str) -> float:
    seconds = 0.0
    for part in stamp.replace(",", ".").split(":"):
        seconds = 60.0 * seconds + float(part)
    return seconds


def _json_blocks(text: str, *, name: str) -> tuple[str, list[Block]]:
    """Words with times, in any nesting of lists and objects that carry ``word`` or ``text`` with ``start``."""
    try:
        tree = json.loads(text)
    except (ValueError, RecursionError):
        raise UnusableNotes("it is not valid JSON", mend="export it again", where=name) from None
    words: list[tuple[float, float | None, str]] = []
    stack: list[Any] = [tree]
    while stack:
        node = stack.pop()
        if isinstance(node, list):
            stack += reversed(node)
        elif isinstance(node, dict):
            inner = [v for v in node.values() if isinstance(v, (list, dict))]
            said, start, end = node.get("word", node.get("text")), node.get("start"), node.get("end")
            timed = isinstance(start, (int, float)) and not isinstance(start, bool)
            if isinstance(said, str) and timed and not any(isinstance(v, list) and v for v in inner):
                assert isinstance(start, (int, float))
                words.append((float(start), float(end) if isinstance(end, (int, float)) else None, said.strip()))
            else:
                stack += reversed(inner)
    words = [w for w in words if w[2]]
    if not words:
        raise UnusableNotes("there are no words with times in it", mend='give "word" and "start" for each', where=name)
    source, blocks = "", []
    for start_s, end_s, said in words:
        blocks.append(Block(start_s, end_s, Span(len(source), len(source) + len(said))))
        source += said + " "
    return source, sorted(blocks, key=lambda b: b.start_s)
