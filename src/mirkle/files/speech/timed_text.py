"""What was said in the car, as timed text: WebVTT, SRT, SBV, TTML, ASS, blocks of ``[m:ss] words`` or with the time on a line above
them, tables and JSON with times."""

from __future__ import annotations

import json
import re
from contextlib import suppress
from dataclasses import replace
from itertools import pairwise
from typing import Any

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import gettext_noop, message
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading, Span
from mirkle.core.speech.reading import Speech, read_speech
from mirkle.core.speech.timed_words import Block
from mirkle.files.detect import LARGEST_NOTES_BYTES, LARGEST_TEXT_BYTES, decoded, unpacked
from mirkle.files.notes.crew_profile import shipped_crew
from mirkle.files.speech.timed_table import looks_like_a_table_of_words, words_in_table

WANTED = gettext_noop("what was said, as WebVTT, SRT or lines of [m:ss] words")
_TIME = r"(?:\d{1,6}:)?\d{1,2}:\d{2}"
_CUE = re.compile(
    rf"^[ \t]*({_TIME}(?:[.,]\d{{1,3}})?(?=[ \t]*-->)|{_TIME}[.,]\d{{1,3}}(?=,))(?:[ \t]*-->[ \t]*|,)({_TIME}(?:[.,]\d{{1,3}})?).*$", re.M
)
# Cue times in the middle of a line, where somebody lost the line ends; and a moment that stands alone among the words.
_CUE_WITHIN = re.compile(
    rf"(?<=[^\s])[ \t]{{1,40}}({_TIME}(?:[.,]\d{{1,3}})?[ \t]{{0,40}}-->[ \t]{{0,40}}{_TIME}(?:[.,]\d{{1,3}})?)[ \t]*\n?"
)
_MOMENT = re.compile(r"(?<![\w:.,\[(<])\d{1,2}:\d{2}:\d{2}[.,]\d{1,3}(?![\w:.,])")
_CLOCK = r"\d{1,2}(?::\d{2}){1,2}(?:[.,]\d+)?"
_NAME = r"[^\W\d_][^\n:]{0,30}?"
_STAMP = re.compile(rf"^[ \t]*[\[(]({_CLOCK})[\])]", re.M)
# A time on a line of its own, with a speaker or without; and a time and a speaker in front of the words.
_STAMP_ABOVE = re.compile(rf"^[ \t]*(?:({_NAME})[ \t]+)?({_CLOCK})[ \t]*$", re.M)
_STAMP_AND_NAME = re.compile(rf"^[ \t]*({_CLOCK})[ \t]+({_NAME}):(?=[ \t])", re.M)
# Such a text has so many stamps and more, of no more speakers, and words under at least this share of the times above them.
LEAST_STAMPS, MOST_SPEAKERS, SPOKEN_UNDER = 3, 4, 0.7
# A word's own time, in captions that come word by word.
_WORD_TIME = re.compile(r"<((?:\d+:)?\d{1,2}:\d{2}[.,]\d{1,3})>")
_DIALOGUE = re.compile(r"^Dialogue:[ \t]*(.+)$", re.M)
# Captions roll where this share of the cues begins with a line of the cue before: each line is shown twice and said once. Cues closer
# than this (s) are one breath.
ROLLING, IN_ONE_BREATH_S = 0.3, 0.3
# No recording of a run is longer than a day and a bit.
MOST_SECONDS = 100_000.0
_TAG = re.compile(r"<[^<>\n]{0,80}>|\{\\[^{}\n]{0,40}\}")


def looks_like_calls(text: str) -> bool:
    """Whether a text is timed: cues, stamps at the heads of lines, or JSON with words."""
    head = text[:4000]
    others = "<tt " in head[:1000] or "<tt>" in head[:1000] or _DIALOGUE.search(text[:20_000])
    return (
        text.lstrip("\ufeff").startswith("WEBVTT")
        or bool(_CUE.search(head) or _stamps_in(text) or others or looks_like_a_table_of_words(text))
        or (head.lstrip().startswith(("{", "[{")) and '"start"' in head and ('"word"' in head or '"text"' in head))
    )


def parse_calls(content: bytes, *, name: str, crew: CrewProfile | None = None, book: Reading | None = None) -> Speech:
    """The calls in a timed text's bytes, read against the ``book`` that was read from where there is one.

    Raises
    ------
    UnusableFile, UnusableNotes
        With the file, what is wrong and what would mend it.
    """
    content = unpacked(content, name=name, largest=LARGEST_TEXT_BYTES, wanted=WANTED)
    text = decoded(content, name=name)
    source, blocks = timed_blocks(text, name=name)
    if len(source) > LARGEST_NOTES_BYTES:
        raise UnusableNotes(
            message("it is {0:.1f} MB of words, more than anybody says on a stage", len(source) / 1e6),
            mend="choose the text of the calls in the car",
            where=name,
        )
    try:
        speech = read_speech(source, blocks, crew or shipped_crew(), book=book)
    except UnusableNotes as fault:
        raise UnusableNotes(fault.what, mend=fault.mend, where=name) from None
    if not captions_roll(text):
        return speech
    said = message("Its captions roll: each line stands there twice, and was read once.")
    return replace(speech, reading=replace(speech.reading, doubts=(*speech.reading.doubts, said)))


def webvtt_time(seconds: float) -> str:
    """A moment as WebVTT writes it."""
    at = max(seconds, 0.0)
    return f"{int(at) // 3600:02d}:{int(at) // 60 % 60:02d}:{at % 60:06.3f}"


def timed_blocks(text: str, *, name: str) -> tuple[str, list[Block]]:
    """A timed text's source and its blocks, in the order of time.

    Raises
    ------
    UnusableNotes
        There is no time in it, or times go back for good.
    """
    if text.lstrip().startswith(("{", "[{")):
        return _json_blocks(text, name=name)
    if text.lstrip().startswith("<") and "<tt" in text[:1000]:
        return _put_together(_ttml_cues(text, name=name), name=name)
    if _DIALOGUE.search(text):
        return _put_together(_ass_cues(text), name=name)
    if looks_like_a_table_of_words(text):
        return _put_together(words_in_table(text), name=name)
    text = _CUE_WITHIN.sub(r"\n\n\1\n", text)
    blocks = _cue_blocks(text) if _CUE.search(text) else _stamp_blocks(text)
    # A time is no word, wherever it stands.
    text = _MOMENT.sub(lambda found: " " * len(found[0]), text)
    if not blocks:
        raise UnusableNotes("there are no times in it", mend="give WebVTT, SRT, or lines that begin with [m:ss]", where=name)
    back = sum(b.start_s < a.start_s - 1.0 for a, b in pairwise(blocks))
    if back > 0.1 * len(blocks) + 1:
        raise UnusableNotes("its times go back again and again", mend="export it again in order", where=name)
    return text, sorted(blocks, key=lambda b: b.start_s) if back == 0 else blocks


def _cue_blocks(text: str) -> list[Block]:
    """The cues' words with their times; of captions that roll each line once."""
    cues = list(_CUE.finditer(text))
    ends = [c.start() for c in cues[1:]] + [len(text)] * bool(cues)
    spans = []
    for cue, limit in zip(cues, ends, strict=True):
        start = min(cue.end() + 1, len(text))
        spans.append((_seconds(cue[1]), _seconds(cue[2]), Span(start, _end_of_cue(text, start, limit))))
    lines = [_lines_of(text, span) for _, _, span in spans]
    rolls = _roll(lines)
    blocks: list[Block] = []
    shown: list[str] = []
    last_s = -1e9
    for (start_s, end_s, _), own in zip(spans, lines, strict=True):
        fresh = [sp for sp, words in own if not (rolls and words in shown and start_s - last_s < IN_ONE_BREATH_S)]
        if fresh:
            # What was shown before stands above what is new: the rest is one stretch.
            blocks += _tagged(text, Span(fresh[0].start, fresh[-1].end), start_s, end_s)
        shown, last_s = [words for _, words in own], end_s
    return [b for b in blocks if text[b.span.start : b.span.end].strip()]


def _roll(lines: list[list[tuple[Span, str]]]) -> bool:
    """Whether captions roll, by the lines of each."""
    return sum(bool(b) and b[0][1] in [w for _, w in a] for a, b in pairwise(lines)) > ROLLING * len(lines)


def captions_roll(text: str) -> bool:
    """Whether a timed text's captions roll, so that each line stands there twice; it is read once."""
    cues = list(_CUE.finditer(text))
    ends = [c.start() for c in cues[1:]] + [len(text)] * bool(cues)
    starts = (min(c.end() + 1, len(text)) for c in cues)
    spans = [Span(s, _end_of_cue(text, s, limit)) for s, limit in zip(starts, ends, strict=True)]
    return bool(spans) and _roll([_lines_of(text, span) for span in spans])


def _lines_of(text: str, span: Span) -> list[tuple[Span, str]]:
    """The lines of a cue that say anything, each with its words alone."""
    out, at = [], span.start
    for line in text[span.start : span.end].split("\n"):
        words = " ".join(_TAG.sub(" ", line).split()).lower()
        if words:
            out.append((Span(at, at + len(line)), words))
        at += len(line) + 1
    return out


def _tagged(text: str, span: Span, start_s: float, end_s: float) -> list[Block]:
    """A stretch's blocks: a recogniser's own tags are no words, and a word's own time begins a block of its own."""
    blocks: list[Block] = []
    at, from_s = span.start, start_s
    times = {m.start(): _seconds(m[1]) for m in _WORD_TIME.finditer(text, span.start, span.end)}
    tags = list(_TAG.finditer(text, span.start, span.end))
    for tag in tags:
        time_s = times.get(tag.start())
        if tag.start() > at:
            blocks.append(Block(from_s, time_s if time_s is not None else end_s, Span(at, tag.start())))
        from_s = time_s if time_s is not None else from_s
        at = tag.end()
    blocks.append(Block(from_s, end_s, Span(at, max(at, span.end))))
    if times:
        # Each word lasts until the next one's time.
        starts = [b.start_s for b in blocks[1:]] + [end_s]
        blocks = [Block(b.start_s, max(b.start_s, later), b.span) for b, later in zip(blocks, starts, strict=True)]
    return blocks


def _put_together(cues: list[tuple[float, float, str]], *, name: str) -> tuple[str, list[Block]]:
    """A source made of cues' words, and its blocks.

    Raises
    ------
    UnusableNotes
        There are none.
    """
    source, blocks = "", []
    for start_s, end_s, words in sorted(cues):
        said = " ".join(words.split())
        if said:
            blocks.append(Block(start_s, max(end_s, start_s), Span(len(source), len(source) + len(said))))
            source += said + "\n"
    if not blocks:
        raise UnusableNotes("there are no words with times in it", mend="export it again as WebVTT or SRT", where=name)
    return source, blocks


def _ass_cues(text: str) -> list[tuple[float, float, str]]:
    """The lines of dialogue, by the order of fields that the file itself gives."""
    form = re.findall(r"^Format:[ \t]*(.+)$", text, re.M)
    fields = [f.strip().lower() for f in form[-1].split(",")] if form else []
    if not {"start", "end", "text"} <= set(fields):
        fields = ["layer", "start", "end", "style", "name", "marginl", "marginr", "marginv", "effect", "text"]
    out = []
    for line in _DIALOGUE.finditer(text):
        cells = line[1].split(",", len(fields) - 1)
        if len(cells) == len(fields):
            values = dict(zip(fields, cells, strict=True))
            words = re.sub(r"\{[^}]*\}", " ", values["text"]).replace("\\N", " ").replace("\\n", " ").replace("\\h", " ")
            with suppress(ValueError):
                out.append((_seconds(values["start"].strip()), _seconds(values["end"].strip()), words))
    return out


def _ttml_cues(text: str, *, name: str) -> list[tuple[float, float, str]]:
    from lxml import etree

    if "<!DOCTYPE" in text[:4000] or "<!ENTITY" in text[:4000]:
        raise UnusableNotes("it carries a document type, which no captions have", mend="export it again", where=name)
    try:
        parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
        tree = etree.fromstring(text.encode(), parser)
    except etree.XMLSyntaxError:
        raise UnusableNotes("it can't be read as captions", mend="export it again as WebVTT or SRT", where=name) from None
    out = []
    for part in tree.iter("{*}p"):
        start, end = _offset(part.get("begin")), _offset(part.get("end"))
        if start is not None:
            long = _offset(part.get("dur"))
            until = end if end is not None else start + (long if long is not None else 2.0)
            out.append((start, until, " ".join(str(t) for t in part.itertext())))
    return out


def _offset(text: str | None) -> float | None:
    """A time of captions: hours, minutes and seconds, or a number with its unit."""
    found = re.fullmatch(r"\s*(\d{1,9}(?:\.\d{1,9})?)(h|m|s|ms)\s*", text or "")
    if found:
        return float(found[1]) * {"h": 3600.0, "m": 60.0, "s": 1.0, "ms": 0.001}[found[2]]
    try:
        return _seconds((text or "")[:30]) if text else None
    except ValueError:
        return None


def _end_of_cue(text: str, start: int, limit: int) -> int:
    """A cue ends at the empty line behind it; what follows up to the next cue is that cue's name or a comment."""
    empty = re.compile(r"\n[ \t]*\n").search(text, max(0, start - 1), limit)
    return max(start, empty.start()) if empty else limit


def _stamp_blocks(text: str) -> list[Block]:
    stamps = _stamps_in(text)
    ends = [span.start for _, span in stamps[1:]] + [len(text)] * bool(stamps)
    # A stamp of whole seconds was cut off, half a second on the whole.
    return [
        Block(_seconds(clock) + 0.5 * ("." not in clock and "," not in clock), None, Span(span.end, end))
        for (clock, span), end in zip(stamps, ends, strict=True)
    ]


def _stamps_in(text: str) -> list[tuple[str, Span]]:
    """The times in front of or above what was said, each with the stretch that is no words; none where the text has none."""
    bracketed = [(s[1], Span(*s.span())) for s in _STAMP.finditer(text)]
    if bracketed:
        return bracketed
    for pattern, name_at, clock_at in ((_STAMP_ABOVE, 1, 2), (_STAMP_AND_NAME, 2, 1)):
        found = list(pattern.finditer(text))
        stamps = [(m[clock_at], Span(*m.span())) for m in found]
        speakers = {m[name_at] for m in found}
        # A time behind each note is a book's.
        spoken = sum(bool(text[a.end : b.start].strip()) for (_, a), (_, b) in pairwise(stamps))
        if len(stamps) >= LEAST_STAMPS and len(speakers) <= MOST_SPEAKERS and spoken >= SPOKEN_UNDER * (len(stamps) - 1):
            return stamps
    return []


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
            timed = isinstance(start, (int, float)) and not isinstance(start, bool) and 0 <= start < MOST_SECONDS
            if isinstance(said, str) and timed and not any(isinstance(v, list) and v for v in inner):
                assert isinstance(start, (int, float))
                words.append(
                    (float(start), float(end) if isinstance(end, (int, float)) and 0 <= end < MOST_SECONDS else None, said.strip())
                )
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
