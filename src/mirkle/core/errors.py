"""The one family of faults a user may meet; each carries a sentence that says where, what and how to mend."""

from mirkle.core.messages import Message, message


class MirkleError(Exception):
    """A fault with a sentence for the user.

    Parameters
    ----------
    what : what is wrong, in plain words
    mend : what would mend it
    where : file, line or field; empty where there is none
    """

    def __init__(self, what: str | Message, *, mend: str | Message = "", where: str | Message = "") -> None:
        self.what, self.mend, self.where = what, mend, where
        super().__init__(self.sentence)

    @property
    def sentence(self) -> str:
        """One line: where, what, and what would mend it."""
        place = f"{self.where}: " if self.where else ""
        cure = f"; {self.mend}" if self.mend else ""
        # What a damaged file holds may be quoted in it, line breaks and all.
        return " ".join(f"{place}{self.what}{cure}.".split())


class UnusableRecording(MirkleError):
    """The recording holds no drive that could be reviewed."""


class UnusableNotes(MirkleError):
    """The text holds no notes that could be read."""


class UnusableLanguage(MirkleError):
    """A language file breaks its own rules."""


class Cancelled(MirkleError):
    """The user stopped the work; nothing was changed."""


def at_line(name: str, line: int) -> Message:
    """A line of a file, for ``where``."""
    return message("{0}, line {1}", name, line)
