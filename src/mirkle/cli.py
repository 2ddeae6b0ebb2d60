"""The command line: ``mirkle`` opens the window, ``mirkle review`` works without Qt."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from mirkle import __version__
from mirkle.core.errors import MirkleError


def main(arguments: list[str] | None = None) -> int:
    """Runs the program; returns 0, or 2 after one line on standard error where the input can't be used."""
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options))
    except MirkleError as fault:
        print(fault.sentence, file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="mirkle", description="Reviews a rally crew's recorded stage runs against its notes."
    )
    parser.add_argument("--version", action="version", version=f"mirkle {__version__}")
    parser.set_defaults(run=_window, stage=None, demo=False)
    commands = parser.add_subparsers(title="commands")

    window = commands.add_parser("open", help="open the window on a saved stage")
    window.add_argument("stage", nargs="?", type=Path, help="a .mirkle file")
    window.set_defaults(run=_window, demo=False)

    demo = commands.add_parser("demo", help="open the window on the demo stage")
    demo.set_defaults(run=_window, stage=None, demo=True)

    review = commands.add_parser("review", help="review a run against its notes, without the window")
    review.add_argument("recording", type=Path, metavar="RUN", help="the run: CSV or GPX, .gz too")
    review.add_argument("--notes", type=Path, required=True, help="the notes as text")
    review.add_argument(
        "--json", type=Path, metavar="OUT.json", help="write the review there; without it, to the terminal"
    )
    review.set_defaults(run=_review)
    return parser


def _review(options: argparse.Namespace) -> int:
    from mirkle.files.review_json import review_json
    from mirkle.session.material import load, review_material
    from mirkle.session.stage import write_whole

    notes, run = load(options.notes), load(options.recording)
    for material, kind, wanted in ((notes, "notes", "notes"), (run, "run", "a run as CSV or GPX")):
        if material.kind != kind:
            raise MirkleError(
                f"this is not {wanted}", mend="give the run first and the notes after --notes", where=material.name
            )
    text = review_json(review_material(notes, run))
    if options.json is None:
        print(text, end="")
    else:
        write_whole(options.json, text.encode())
    return 0


def _window(options: argparse.Namespace) -> int:
    try:
        from mirkle.desk.app import run_window
    except ImportError as missing:
        raise MirkleError(
            f"the window can't open ({missing})", mend="run “make demo” once, which installs what Qt needs"
        ) from None
    return int(run_window(options.stage, demo=options.demo))
