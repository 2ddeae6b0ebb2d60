"""A crew's own file: TOML with its language, order and sense, and words of its own.

language = "en"             # a language that ships, or the path of a language file beside this one
order = "direction-first"   # or "grade-first"; left out: found from the notes
sense = "ascending"         # or "descending"; left out: found from the notes and the road

[words.feature]             # words of one's own: kind, then the term's name, then the forms
crest = ["brow", "br"]
"""

from __future__ import annotations

import json
import tomllib
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from mirkle.core.errors import UnusableLanguage
from mirkle.core.messages import Message, gettext_noop, message
from mirkle.core.notes.crew_profile import ORDERS, SENSES, CrewProfile, taught
from mirkle.core.notes.language import Language
from mirkle.files.detect import decoded, read_bytes
from mirkle.files.notes.languages import line_of, read_language, shipped_languages

WANTED = gettext_noop("the crew's file as TOML")


def shipped_crew() -> CrewProfile:
    """A crew of which nothing is known yet."""
    return CrewProfile(shipped_languages())


def read_crew(path: Path) -> CrewProfile:
    """The crew in a file.

    Raises
    ------
    UnusableFile, UnusableLanguage
        With the line that breaks the rules.
    """
    content = read_bytes(path, largest=1_000_000, wanted=WANTED)
    return parse_crew(content, name=path.name, folder=path.parent)


def parse_crew(content: bytes, *, name: str, folder: Path | None = None) -> CrewProfile:
    """As :func:`read_crew`, from the file's bytes; language files are looked for in ``folder``."""
    text = decoded(content, name=name)
    try:
        table = tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError, ValueError) as error:
        raise UnusableLanguage(message("it is not valid TOML ({0})", error), mend="mend that line", where=name) from None
    for key, allowed in (("order", ORDERS), ("sense", SENSES)):
        if table.get(key, allowed[0]) not in allowed:
            raise UnusableLanguage(
                message("{0} is “{1}”", key, table[key]), mend=message("write {0}", " or ".join(allowed)), where=line_of(text, key, name)
            )
    unknown = set(table) - {"language", "order", "sense", "leave", "meant", "words"}
    if unknown:
        key = sorted(unknown)[0]
        raise UnusableLanguage(
            message("“{0}” is not known here", key),
            mend="use language, order, sense, leave, meant or [words.KIND]",
            where=line_of(text, key, name),
        )
    languages = _languages(table, text, name, folder)
    leave = _listed(table.get("leave", []), where=line_of(text, "leave", name))
    meant = _listed(table.get("meant", []), where=line_of(text, "meant", name))
    lower = [frozenset(words.lower() for words in given) for given in (leave, meant)]
    return CrewProfile(languages, table.get("order"), table.get("sense"), *lower)


def _listed(given: object, *, where: str | Message) -> list[str]:
    """A list of words; one word stands for a list of one."""
    words = [given] if isinstance(given, str) else given
    if not isinstance(words, list) or not all(isinstance(word, str) for word in words):
        raise UnusableLanguage(message("{0!r} is not a list of words", given), mend='write ["one", "two"]', where=where)
    return words


def _languages(table: Mapping[str, Any], text: str, name: str, folder: Path | None) -> tuple[Language, ...]:
    languages = shipped_languages()
    wanted = table.get("language")
    if wanted is not None:
        chosen = next((la for la in languages if la.code == wanted), None)
        if chosen is None and folder is not None and (folder / str(wanted)).is_file():
            chosen = read_language(folder / str(wanted))
        if chosen is None:
            codes = " or ".join(la.code for la in languages)
            raise UnusableLanguage(
                message("there is no language “{0}”", wanted),
                mend=message("write {0}, or the name of a language file in the same folder", codes),
                where=line_of(text, "language", name),
            )
        languages = (chosen,)
    words = table.get("words", {})
    tables = {"words": words, **(words if isinstance(words, dict) else {})}
    for key, given in tables.items():
        if not isinstance(given, dict):
            raise UnusableLanguage(
                message("“{0}” has no table", key),
                mend='write [words.feature] and below it crest = ["brow"]',
                where=line_of(text, key, name),
            )
    for kind, terms in words.items():
        for key, forms in terms.items():
            where = line_of(text, key, name)
            for form in _listed(forms, where=where):
                languages = tuple(_with(la, kind, key, form, where=where) for la in languages)
    return languages


def _with(language: Language, kind: str, key: str, form: str, *, where: str | Message) -> Language:
    try:
        return taught(language, kind, key, form)
    except UnusableLanguage as fault:
        raise UnusableLanguage(fault.what, mend=fault.mend, where=where) from None


def edited(
    content: bytes | None,
    *,
    teach: tuple[str, str, str] | None = None,
    leave: str | None = None,
    meant: str | None = None,
    habits: Mapping[str, str | None] | None = None,
) -> bytes:
    """A crew's file with one more word taught as (kind, name of the term, form), or one more word left as it is, or one more note
    that is ``meant`` so.

    ``habits`` sets ``order`` or ``sense``; ``None`` leaves it to be found again.
    """
    table: dict[str, Any] = tomllib.loads(content.decode("utf-8")) if content else {}
    table |= habits or {}
    words: dict[str, dict[str, list[str]]] = {k: dict(v) for k, v in dict(table.get("words", {})).items()}
    left = [str(w) for w in table.get("leave", [])]
    if teach is not None:
        kind, key, form = teach
        forms = words.setdefault(kind, {}).setdefault(key, [])
        words[kind][key] = [*forms, form] if form not in forms else forms
        left = [w for w in left if w != form]
    if leave is not None and leave not in left:
        left.append(leave)
    notes = [str(n) for n in table.get("meant", [])]
    if meant is not None and meant not in notes:
        notes.append(meant)
    lines = [f"{key} = {_quoted(table[key])}" for key in ("language", "order", "sense") if table.get(key)]
    if left:
        lines.append(f"leave = [{', '.join(map(_quoted, left))}]")
    if notes:
        lines.append(f"meant = [{', '.join(map(_quoted, notes))}]")
    for kind, terms in words.items():
        lines += ["", f"[words.{kind}]"]
        lines += [f"{_quoted(key)} = [{', '.join(map(_quoted, forms))}]" for key, forms in terms.items()]
    return ("\n".join(lines) + "\n").encode()


def _quoted(text: str) -> str:
    # A JSON string is a TOML basic string.
    return json.dumps(text, ensure_ascii=False)
