"""The languages of notes that ship with the application, and a crew's own copies."""

from __future__ import annotations

import re
import tomllib
from functools import cache
from importlib import resources
from pathlib import Path

from mirkle.core.errors import UnusableLanguage, at_line
from mirkle.core.messages import Message, message
from mirkle.core.notes.language import Language, language_from_table
from mirkle.files.detect import decoded, read_bytes


@cache
def shipped_languages() -> tuple[Language, ...]:
    """Every language in the package, English first."""
    folder = resources.files("mirkle.core.notes") / "languages"
    files = sorted((f for f in folder.iterdir() if f.name.endswith(".toml")), key=lambda f: (f.name != "en.toml", f.name))
    return tuple(_parsed(f.read_text(encoding="utf-8"), where=f.name) for f in files)


def read_language(path: Path) -> Language:
    """A crew's own language file.

    Raises
    ------
    UnusableFile, UnusableLanguage
        With the line or the term that breaks the rules.
    """
    content = read_bytes(path, largest=1_000_000, wanted="a language file as TOML")
    return _parsed(decoded(content, name=path.name), where=path.name)


def _parsed(text: str, *, where: str) -> Language:
    try:
        table = tomllib.loads(text)
    except (tomllib.TOMLDecodeError, RecursionError, ValueError) as error:
        raise UnusableLanguage(message("it is not valid TOML ({0})", error), mend="mend that line", where=where) from None
    try:
        return language_from_table(table, where=where)
    except UnusableLanguage as fault:
        named = re.search(r"“(.+?)”|\[(\w+)\]", str(fault.what))
        place = line_of(text, named[1] or named[2], where) if named else where
        raise UnusableLanguage(fault.what, mend=fault.mend, where=place) from None


def line_of(text: str, key: str, name: str) -> str | Message:
    """The file's name with the line on which a key or table first stands, as far as there is one."""
    found = re.search(rf'^[ \t]*[\["]*(?:\w+\.)?{re.escape(key)}["\]]*[ \t]*(?:=|$)', text, re.MULTILINE)
    return at_line(name, text.count("\n", 0, found.start()) + 1) if found else name
