"""A score, checked and read. Runs in the reading process."""

from __future__ import annotations

from collections.abc import Mapping

import msgspec

from yellow_hinge.core.errors import UserError
from yellow_hinge.io.files import FileFault
from yellow_hinge.io.imported import NOTHING_ASKED, Imported
from yellow_hinge.io.musicxml.held_hands import read_held
from yellow_hinge.io.musicxml.reading import read_musicxml
from yellow_hinge.io.musicxml.score.container import score_root
from yellow_hinge.io.songs.song_json import check_song

KEYS_LEFT_OUT = "the part 'Keys' was left out"
HANDS_BACK = "the hands came back as they are held, kept at their chords"


def read_score(data: bytes, name: str, asks: Mapping[str, str] = NOTHING_ASKED) -> Imported:
    """Read MusicXML, compressed or not. Raises FileFault."""
    root = score_root(data, name)
    found = read_musicxml(root, name, asks)
    hands = read_held(root)
    report = found.report
    if hands:  # our own score: what it says of the hands stands for the notes of their part
        report = (*(words for words in report if words != KEYS_LEFT_OUT), HANDS_BACK)
    found = msgspec.structs.replace(found, report=report, hands=hands)
    if not found.song.sections:
        raise FileFault(name, "holds no bars")
    try:
        check_song(found.song)
    except UserError as error:
        raise FileFault(name, f"holds more than the program can use ({error})") from None
    return found
