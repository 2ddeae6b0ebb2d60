"""A stand-in for a co-driver's voice and a speech recogniser: calls of any school, and the damage done to them.

Its slips of hearing are written down here by themselves, not taken from the language files, so that reading is tried
on words it was not told of. Used by the reading bench and the tests.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from mirkle.files.speech.timed_text import webvtt_time

EN = {
    "left": "left",
    "right": "right",
    "hairpin": "hairpin",
    "square": "square",
    "flat": "flat",
    "plus": "plus",
    "minus": "minus",
    "long": "long",
    "very long": "very long",
    "short": "short",
    "tightens": "tightens",
    "opens": "opens",
    "caution": "caution",
    "double caution": "double caution",
    "over crest": "over crest",
    "over jump": "over jump",
    "bump": "bump",
    "dip": "dip",
    "don't cut": "don't cut",
    "keep left": "keep left",
    "keep right": "keep right",
    "rocks inside": "rocks inside",
    "ditch outside": "ditch outside",
    "into": "into",
    "and": "and",
    "start": "start",
    "finish": "finish",
    "crest": "crest",
    "jump": "jump",
    "narrow": "narrow",
    "at junction": "at junction",
    "jump maybe": "jump maybe",
    "bridge": "bridge",
}
PT = {
    "left": "esquerda",
    "right": "direita",
    "hairpin": "gancho",
    "square": "quadrada",
    "flat": "a fundo",
    "plus": "mais",
    "minus": "menos",
    "long": "longa",
    "very long": "muito longa",
    "short": "curta",
    "tightens": "fecha",
    "opens": "abre",
    "caution": "cautela",
    "double caution": "dupla cautela",
    "over crest": "sobre alto",
    "over jump": "sobre salto",
    "bump": "lomba",
    "dip": "depressão",
    "don't cut": "não cortar",
    "keep left": "manter esquerda",
    "keep right": "manter direita",
    "rocks inside": "pedras dentro",
    "ditch outside": "valeta fora",
    "into": "para",
    "and": "e",
    "start": "partida",
    "finish": "meta",
    "crest": "alto",
    "jump": "salto",
    "narrow": "estreito",
    "at junction": "no cruzamento",
    "jump maybe": "salto talvez",
    "bridge": "ponte",
}
FIGURES = {
    "en": {
        1: "one",
        2: "two",
        3: "three",
        4: "four",
        5: "five",
        6: "six",
        7: "seven",
        8: "eight",
        9: "nine",
        20: "twenty",
        30: "thirty",
        40: "forty",
        50: "fifty",
        60: "sixty",
        70: "seventy",
        80: "eighty",
        90: "ninety",
        100: "one hundred",
        120: "one twenty",
        150: "one fifty",
        200: "two hundred",
        250: "two fifty",
        300: "three hundred",
    },
    "pt": {
        1: "um",
        2: "dois",
        3: "três",
        4: "quatro",
        5: "cinco",
        6: "seis",
        7: "sete",
        8: "oito",
        9: "nove",
        20: "vinte",
        30: "trinta",
        40: "quarenta",
        50: "cinquenta",
        60: "sessenta",
        70: "setenta",
        80: "oitenta",
        90: "noventa",
        100: "cem",
        120: "cento e vinte",
        150: "cento e cinquenta",
        200: "duzentos",
        250: "duzentos e cinquenta",
        300: "trezentos",
    },
}
MISHEARD = {
    "en": {
        "left": ["lept", "laft", "lift"],
        "right": ["write", "riot", "ride"],
        "hairpin": ["hair pin", "airpin", "hairbin"],
        "square": ["squares", "squeer"],
        "long": ["wrong", "longue"],
        "tightens": ["titans", "tight ends", "tidens", "tightened"],
        "opens": ["open", "hopens"],
        "caution": ["cushion", "corsion", "question"],
        "crest": ["chest", "crust", "creste"],
        "over crest": ["overcrest", "of a crest", "over chrest"],
        "bump": ["bumb", "pump"],
        "dip": ["dipp", "deep"],
        "don't cut": ["dont cut", "don't cat"],
        "four": ["for", "fore"],
        "two": ["to", "too"],
        "one": ["won"],
        "into": ["in to", "in two"],
        "jump": ["jumb", "jumpe"],
        "plus": ["pluss", "plas"],
        "minus": ["minas", "mynus"],
        "junction": ["junktion", "function"],
        "rocks": ["rox", "rockes"],
        "eight": ["ate"],
    },
    "pt": {
        "esquerda": ["esquerdo", "esquerta", "isquerda"],
        "direita": ["direta", "direito", "dereita"],
        "gancho": ["rancho", "ganxo"],
        "longa": ["longo", "lounga"],
        "fecha": ["flecha", "fexa"],
        "abre": ["abri", "abrir"],
        "cautela": ["tutela", "cautelha"],
        "alto": ["auto", "altu"],
        "salto": ["sauto", "saltu"],
        "lomba": ["lombo", "lumba"],
        "depressão": ["de pressão", "depressao"],
        "seis": ["meia"],
        "três": ["tres"],
        "cortar": ["curtar", "cortare"],
        "quatro": ["quarto"],
        "para": ["pára", "pra"],
        "curta": ["curto"],
        "mais": ["mas"],
    },
}
TALK = {
    "en": ["good", "okay good", "nice one that was lovely", "we left a lot of time there", "keep pushing", "well done"],
    "pt": ["boa", "muito bem", "está bom assim", "vamos vamos", "perdemos muito tempo ali"],
}
DISTANCES = [20, 30, 40, 50, 60, 70, 80, 100, 120, 150, 200, 250, 300]


@dataclass(frozen=True)
class Voice:
    """A crew's way of calling; ``damage`` is the share of words that a recogniser harms, 0 for none."""

    language: str = "en"
    grade_first: bool = False
    top: int = 6
    descending: bool = False
    halves: str = ""  # "", "+" or "+-"
    figures: bool = True  # numbers as digits, else as words
    damage: float = 0.0
    block_s: float | None = None  # coarse blocks of that length, else a cue for each call


@dataclass
class Called:
    """One call as it was meant."""

    direction: str | None = None
    grade: str | None = None
    distance_m: int | None = None
    words: list[str] = field(default_factory=list)


def calls_of(rng: np.random.Generator, voice: Voice, count: int) -> list[Called]:
    """Invented calls from start to finish, in the words of the voice."""
    say = EN if voice.language == "en" else PT
    out = [_gap(rng, voice, Called(words=[say["start"]]))]
    for _ in range(count):
        if rng.random() < 0.05:
            out.append(_gap(rng, voice, Called(words=[say[str(rng.choice(["jump", "crest", "bump", "dip", "jump maybe"]))]])))
        out.append(_corner(rng, voice, say))
    out.append(Called(words=[say["finish"]]))
    return out


def _corner(rng: np.random.Generator, voice: Voice, say: dict[str, str]) -> Called:
    side = str(rng.choice(["left", "right"]))
    draw = rng.random()
    if draw < 0.04:
        grade, spoken = "hairpin", say["hairpin"]
    elif draw < 0.06:
        grade, spoken = "square", say["square"]
    else:
        number = int(rng.integers(1, voice.top + 1))
        half = str(rng.choice(list(voice.halves))) if voice.halves and rng.random() < 0.3 else ""
        grade = f"{number}{half}"
        spoken = _number(voice, number) + {"": "", "+": f" {say['plus']}", "-": f" {say['minus']}"}[half]
    pair = [spoken, say[side]] if voice.grade_first else [say[side], spoken]
    words = list(pair)
    if rng.random() < 0.3:
        words.append(say[str(rng.choice(["long", "very long", "short"]))])
    if grade[0].isdigit() and rng.random() < 0.14:
        words += _change(rng, voice, say, int(grade[0]))
    for chance, choices in (
        (0.12, ["over crest", "over jump", "bump", "dip"]),
        (0.1, ["don't cut", "keep left", "keep right", "narrow", "at junction"]),
        (0.06, ["rocks inside", "ditch outside", "bridge"]),
        (0.08, ["caution", "double caution"]),
    ):
        if rng.random() < chance:
            words.append(say[str(rng.choice(choices))])
    return _gap(rng, voice, Called(side, grade, words=words))


def _change(rng: np.random.Generator, voice: Voice, say: dict[str, str], number: int) -> list[str]:
    step = 1 if rng.random() < 0.4 else -1  # +1 is wider
    to = number + (step if not voice.descending else -step)
    if not 1 <= to <= voice.top:
        return [say["tightens"]]
    return [say["opens" if step > 0 else "tightens"], _number(voice, to)]


def _gap(rng: np.random.Generator, voice: Voice, called: Called) -> Called:
    say = EN if voice.language == "en" else PT
    if rng.random() < 0.2:
        called.words.append(say[str(rng.choice(["into", "and"]))])
    else:
        called.distance_m = int(rng.choice(DISTANCES))
        called.words.append(_number(voice, called.distance_m))
    return called


def _number(voice: Voice, number: int) -> str:
    return str(number) if voice.figures else FIGURES[voice.language].get(number, str(number))


def recognised(rng: np.random.Generator, voice: Voice, calls: list[Called]) -> str:
    """The calls as WebVTT or as coarse ``[m:ss]`` blocks, with a countdown before them, harmed at the voice's rate."""
    at, cues = 30.0, []
    if rng.random() < 0.7:
        # Rehearsal of the first calls, and the countdown.
        for called in calls[:3]:
            cues.append((at, " ".join(called.words)))
            at += 3.0
    cues.append((at, "five four three two one go" if voice.language == "en" else "cinco quatro três dois um vai"))
    at += 6.0
    for called in calls:
        cues.append((at, _harmed(rng, voice, called)))
        at += float(rng.uniform(2.0, 6.0))
        if rng.random() < 0.03 * bool(voice.damage):
            cues.append((at - 1.0, str(rng.choice(TALK[voice.language]))))
    cues.append((at + 6.0, str(rng.choice(TALK[voice.language])) + " " + str(rng.choice(TALK[voice.language]))))
    return _blocks(cues, voice.block_s) if voice.block_s else _cues(cues)


def _harmed(rng: np.random.Generator, voice: Voice, called: Called) -> str:
    out: list[str] = []
    for phrase in called.words:
        heard = MISHEARD[voice.language]
        if phrase in heard and rng.random() < voice.damage:
            out.append(str(rng.choice(heard[phrase])))
            continue
        for word in phrase.split():
            harmed = rng.random() < voice.damage
            out.append(str(rng.choice(heard[word])) if harmed and word in heard else word)
    if rng.random() < voice.damage / 2 and called.direction and len(out) > 2:
        keep = int(rng.integers(2, len(out) + 1))
        out = out[:keep] + out if rng.random() < 0.5 else out + out[: len(out) - 1]
    if rng.random() < voice.damage / 3 and out[-1].isdecimal() and len(out) > 1 and out[-2].isdecimal() and len(out[-2]) == 1:
        out[-2:] = [out[-2] + out[-1]]
    return " ".join(out)


def _cues(cues: list[tuple[float, str]]) -> str:
    lines = ["WEBVTT", ""]
    for at, words in cues:
        lines += [f"{webvtt_time(at)} --> {webvtt_time(at + 0.25 * len(words.split()))}", words, ""]
    return "\n".join(lines)


def _blocks(cues: list[tuple[float, str]], block_s: float) -> str:
    lines, begun, words = [], cues[0][0], list[str]()
    for at, text in cues:
        for word in text.split():
            if at > begun + block_s:
                lines.append(f"[{int(begun) // 60}:{int(begun) % 60:02d}] " + " ".join(words))
                begun, words = at, []
            words.append(word)
            at += 0.25
    lines.append(f"[{int(begun) // 60}:{int(begun) % 60:02d}] " + " ".join(words))
    return "\n".join(lines) + "\n"
