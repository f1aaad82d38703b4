"""What each manner thinks of each kind of substitute: high, medium, low or never (design: manners, table a.1)."""

from __future__ import annotations

MANNERS = ("hymn", "pop", "rhythm-and-blues", "gospel", "jazz-with-bass", "jazz-alone", "solo-ballad", "modal")
LIKED = {"H": 3.0, "M": 1.0, "L": 0.3, "-": 0.0}
USUAL = 1.0  # where no manner is played in, or a kind has no row
# Rows by the id of a kind; several kinds may share one.
_ROWS = (
    ("inversion walk", "HHMHLMHL"), ("secondary", "MLMHHHM-"), ("secondary-third", "HMMHLLH-"),
    ("suspend", "HHMHMMHM"), ("five-over", "LHHHMMMM"), ("six-four", "HMLHLLM-"), ("diminished", "MLMHMHM-"),
    ("common-tone", "L-LMMHL-"), ("two", "LLHHHHM-"), ("tritone half-step-two-fives", "--MHHHL-"),
    ("backdoor", "-LMMHHM-"), ("four-minor minor-four-six", "LHHHMMHL"), ("borrowed flat-six-seven", "-MMHMMMM"),
    ("flat-two", "-LMMMMLM"), ("fifths two-fives", "MLMHHHL-"), ("dominant", "MMMHHHM-"), ("deceptive", "MMMMLMML"),
    ("relative", "MMMMMMML"), ("sharp-four", "LLMHHHM-"), ("upper plagal", "-HHHMMMH"),
    ("pedal pedal-through over-pedal", "MHMMLLHH"), ("cliche", "LHMMMHHL"), ("dark-slash", "-MMMLLML"),
    ("approach", "--HHMM-M"), ("slide planing", "-LMMLL-H"), ("mode parallel", "-LMLLLLH"), ("mediant", "-LMLLLMH"),
    ("neapolitan augmented", "L--LMMM-"), ("walk-up walk-down steps bass-line", "HHMHLLHL"), ("altered", "--MHHHL-"),
    ("picardy dorian-four", "ML-MLLML"), ("turnaround tag", "-LMHHHML"), ("leading-tone", "--LMMHL-"),
    ("colour", "-HHHHHHH"),
)  # fmt: skip
_LIKES = {kind: dict(zip(MANNERS, row, strict=True)) for kinds, row in _ROWS for kind in kinds.split()}
# How many of a kind a song bears: one in so many bars. Kinds that are not named: as many as come.
SHARES = {
    "borrowed": 4, "tritone": 4, "four-minor": 8, "secondary": 3, "diminished": 4, "relative": 8, "backdoor": 8,
    "flat-two": 12, "flat-six-seven": 12, "mediant": 12, "neapolitan": 16, "augmented": 16, "common-tone": 8,
    "slide": 8, "planing": 8, "approach": 6, "mode": 8, "parallel": 16, "leading-tone": 8, "pedal": 4, "upper": 3,
    "cliche": 12, "sharp-four": 8, "minor-four-six": 12, "plagal": 8, "dominant": 4, "two": 3, "deceptive": 8,
    "six-four": 4, "suspend": 3, "five-over": 4, "altered": 3, "secondary-third": 4, "picardy": 32,
}  # fmt: skip


def liked(kind: str, manner: str) -> float:
    """How likely a kind is in a manner: 3 high, 1 medium or where nothing is said, 0.3 low, 0 never."""
    return LIKED[_LIKES[kind][manner]] if kind in _LIKES and manner in MANNERS else USUAL


def most(kind: str, bars: int) -> int:
    """How many of a kind a song of so many bars bears."""
    return max(1, -(-bars // SHARES[kind])) if kind in SHARES else bars
