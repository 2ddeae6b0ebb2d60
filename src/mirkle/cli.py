"""The command line: ``mirkle`` opens the window, ``mirkle review`` works without Qt."""

from __future__ import annotations

import argparse
import difflib
import errno
import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from mirkle import __version__
from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, message
from mirkle.core.progress import Progress, silent

if TYPE_CHECKING:
    from mirkle.files.project.project import SourceFile

COMMANDS = ("open", "demo", "desktop", "review", "passes", "read", "listen")


# What a shell expects of a program whose reader went away.
PIPE_CLOSED = 141
# Standard input or output in place of a file.
STANDARD = "-"


def main(arguments: list[str] | None = None) -> int:
    """Runs the program; returns 0, or 2 after one line on standard error where the input can't be used."""
    try:
        options = _parser().parse_args(_files_first(sys.argv[1:] if arguments is None else arguments))
        code = int(options.run(options))
        sys.stdout.flush()
    except MirkleError as fault:
        print(fault.sentence, file=sys.stderr)
        return 2
    except BrokenPipeError:
        # Whoever read the output has seen enough. What is left in the buffer must not be tried again at exit.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return PIPE_CLOSED
    except OSError as error:
        if error.errno not in (errno.ENOSPC, errno.EIO, errno.EDQUOT):
            raise
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        print(f"the output can't be written ({error.strerror}); make room, or write it elsewhere with --json.", file=sys.stderr)
        return 2
    return code


def _files_first(arguments: list[str]) -> list[str]:
    """``mirkle FILE…`` opens what is given: what is neither a command nor an option is a file.

    Raises
    ------
    MirkleError
        It is none of the three.
    """
    if not arguments or arguments[0] in COMMANDS or arguments[0].startswith("-"):
        return arguments
    first = arguments[0]
    if not Path(first).exists() and Path(first).name == first and not Path(first).suffix:
        near = difflib.get_close_matches(first, COMMANDS, n=1)
        mend = message("write “mirkle {0}”", near[0]) if near else message("commands are {0}", ", ".join(COMMANDS))
        raise MirkleError("there is no such command or file", mend=mend, where=first)
    return ["open", *arguments]


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="mirkle", description="Reviews a rally crew's recorded stage runs against its notes.")
    parser.add_argument("--version", action="version", version=f"mirkle {__version__}")
    parser.set_defaults(run=_window, files=(), demo=False)
    commands = parser.add_subparsers(title="commands")

    window = commands.add_parser("open", help="open the window on a saved stage, or on files to be taken in")
    window.add_argument("files", nargs="*", type=Path, metavar="FILE", help="a .mirkle file, or notes, runs, words, sound")
    window.set_defaults(run=_window, demo=False)

    demo = commands.add_parser("demo", help="open the window on the demo stage")
    demo.set_defaults(run=_window, files=(), demo=True)

    desktop = commands.add_parser("desktop", help="put menu entry, icon, file type and manual page in their places")
    desktop.add_argument("--remove", action="store_true", help="take away what this command put there")
    desktop.set_defaults(run=_desktop)

    review = commands.add_parser("review", help="review a run against its notes, without the window")
    review.add_argument(
        "recordings", type=Path, nargs="+", metavar="RUN", help="the run: CSV, GPX, NMEA or MDF4, .gz too; more are earlier passes"
    )
    review.add_argument("--notes", type=Path, help="the notes as text; may be left out with --calls")
    review.add_argument("--calls", type=Path, help="what was said: WebVTT, SRT, [m:ss] lines, JSON with word times")
    _add_any_road(review)
    _add_common(review)
    review.set_defaults(run=_review)

    passes = commands.add_parser("passes", help="was the change right? passes of a stage against each other")
    passes.add_argument(
        "--pass",
        dest="passes",
        nargs=3,
        action="append",
        required=True,
        metavar=("RUN", "NOTES", "CALLS"),
        help="a pass, in the order driven: the run, the book that was read, and what was said, - where there is none",
    )
    _add_any_road(passes)
    _add_common(passes)
    passes.set_defaults(run=_passes)

    read = commands.add_parser("read", help="read notes or timed words alone")
    read.add_argument("text", type=Path, metavar="TEXT", help="notes as text, or timed text of what was said")
    read.add_argument("--calls", type=Path, help="what was said, to be held against the notes in TEXT")
    _add_common(read)
    read.set_defaults(run=_read)

    listen = commands.add_parser("listen", help="when each note was called, from the sound of a run and the book")
    listen.add_argument("sound", type=Path, metavar="SOUND", help="the sound or video of the run")
    listen.add_argument("--notes", type=Path, required=True, help="the notes that were read")
    listen.add_argument("--run", dest="recording", type=Path, metavar="RUN", help="its recording, which tells when each note was due")
    listen.add_argument("--calls", type=Path, help="what was said, as timed text that knows only about when: the sound says when exactly")
    listen.add_argument("--keep", type=Path, metavar="FILE", help="keep all that was heard there, for Mirkle itself; --calls takes it too")
    _add_common(listen)
    listen.set_defaults(run=_listen)
    return parser


def _add_any_road(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--any-road", action="store_true", help="take passes for passes of one stage even where they are of different roads"
    )


def _add_common(command: argparse.ArgumentParser) -> None:
    command.add_argument("--crew", type=Path, metavar="CREW.toml", help="the crew's way of writing notes")
    command.add_argument("--json", type=Path, metavar="OUT.json", help="write there; without it, or with -, to standard output")
    command.add_argument("--quiet", action="store_true", help="show no progress")


def _loaded(path: Path, kind: str | None = None) -> SourceFile:
    """A file's material, or what comes from standard input."""
    from mirkle.session.import_files import load, loaded

    if str(path) != STANDARD:
        return load(path, kind=kind)
    content = sys.stdin.buffer.read()
    if not content:
        raise MirkleError("nothing came from standard input", mend="give it the file’s content", where=STANDARD)
    return loaded(content, name="standard input" + (".toml" if kind == "crew" else ""), kind=kind)


def _progress(options: argparse.Namespace) -> Progress:
    """A bar on the terminal that standard error is; silent where it is none, or nobody wants it."""
    if options.quiet or not sys.stderr.isatty():
        return silent
    plain = bool(os.environ.get("NO_COLOR")) or os.environ.get("TERM") == "dumb"

    def show(doing: Message, share: float) -> None:
        done = round(BAR_WIDTH * share)
        bar = f"{'#' * done:<{BAR_WIDTH}}" if plain else f"\x1b[36m{'█' * done}\x1b[0m{'░' * (BAR_WIDTH - done)}"
        print(f"\r{bar} {share:4.0%}  {doing!s:<44.44}", end="", file=sys.stderr, flush=True)
        if share >= 1.0:
            print("\r" + " " * (BAR_WIDTH + 52) + "\r", end="", file=sys.stderr, flush=True)

    return show


BAR_WIDTH = 24


def _review(options: argparse.Namespace) -> int:
    from mirkle.files.export.review_json import review_json
    from mirkle.session.reviewing import Inputs, Measurements, check_one_road, review_material

    if options.notes is None and options.calls is None:
        raise MirkleError("there are no notes", mend="give --notes, or --calls with what was said")
    run, *earlier = [_loaded(path, "run") for path in options.recordings]
    notes, calls, crew = (
        _loaded(path, kind) if path is not None else None
        for path, kind in ((options.notes, "notes"), (options.calls, "calls"), (options.crew, "crew"))
    )
    inputs = Inputs(run, notes, calls, crew, others=tuple(earlier))
    measurements = Measurements()
    if not options.any_road:
        check_one_road([run, *earlier], measurements)
    progress = _progress(options)
    review = review_material(inputs, measurements=measurements, progress=progress)
    progress(message("Done"), 1.0)
    _write(review_json(review, inputs.files), options.json)
    return 0


def _passes(options: argparse.Namespace) -> int:
    from mirkle.files.export.passes_json import passes_json
    from mirkle.session.change_review import followed
    from mirkle.session.reviewing import Inputs

    crew = _loaded(options.crew, "crew") if options.crew else None
    passes = [
        Inputs(_loaded(Path(run), "run"), _loaded(Path(notes), "notes"), _loaded(Path(calls), "calls") if calls != "-" else None, crew)
        for run, notes, calls in options.passes
    ]
    _write(passes_json(followed(passes, any_road=options.any_road)), options.json)
    return 0


def _read(options: argparse.Namespace) -> int:
    from mirkle.session.parsed_files import crew_of
    from mirkle.session.reviewing import read_alone

    crew = crew_of(_loaded(options.crew, "crew") if options.crew else None)
    calls = _loaded(options.calls, "calls") if options.calls else None
    text = _loaded(options.text, "notes" if calls else None)
    _write(read_alone(text, crew, calls), options.json)
    return 0


def _listen(options: argparse.Namespace) -> int:
    from mirkle.files.audio.voice import check_there_is_sound
    from mirkle.files.speech.heard_json import heard_json
    from mirkle.files.speech.listen_json import listen_json
    from mirkle.session.listening import believable, heard_in
    from mirkle.session.parsed_files import crew_of
    from mirkle.session.reviewing import Inputs, book_in, review_material

    # Before anything long: it may not be there.
    check_there_is_sound(options.sound)
    progress = _progress(options)
    crew = _loaded(options.crew, "crew") if options.crew else None
    notes = _loaded(options.notes, "notes")
    run = _loaded(options.recording, "run") if options.recording else None
    calls = _loaded(options.calls, "calls") if options.calls else None
    review = review_material(Inputs(run, notes, calls, crew), progress=progress) if run else None
    book = book_in(notes, calls, crew_of(crew))
    heard = heard_in(options.sound, book, crew_of(crew), review, progress, timed_text=calls)
    progress(message("Done"), 1.0)
    if options.keep is not None:
        _write(heard_json(believable(heard)).decode(), options.keep)
    if options.keep is None or options.json is not None:
        _write(listen_json(heard), options.json)
    return 0


def _desktop(options: argparse.Namespace) -> int:
    from mirkle.session.desktop import install, remove

    for path in remove() if options.remove else install():
        print(path)
    return 0


def _write(text: str, out: Path | None) -> None:
    if out is None or str(out) == STANDARD:
        sys.stdout.write(text)
        return
    from mirkle.files.atomic_write import write_whole

    write_whole(out, text.encode())


def _window(options: argparse.Namespace) -> int:
    import os

    shown = any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"))
    if not shown:
        raise MirkleError(
            "there is no display to open a window on",
            mend="start it in a desktop session, or work without the window: “mirkle review --help”",
        )
    try:
        from mirkle.gui.app import run_window
    except ImportError as missing:
        raise MirkleError(
            message("the window can't open ({0})", missing), mend="run “make demo” once, which installs what Qt needs"
        ) from None
    return int(run_window(options.files, demo=options.demo))
