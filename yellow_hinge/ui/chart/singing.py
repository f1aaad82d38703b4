"""The key that suits a singer, asked for by the lowest and the highest note."""

from __future__ import annotations

from typing import Any

from yellow_hinge.app.edits.other_key import key_for, read_voice, tune_range
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.leading.prices.hinge import semitones
from yellow_hinge.core.pitch.pitch import pitch_of, pretty_signs, sharp_note

QUESTION = "The singer's lowest and highest note, such as A3 D5:"


def for_singer(window: Any) -> None:
    """Ask for a singer's range and show the song in the key that fits it best; Take it makes it the song's."""
    song = window.desk.song
    if tune_range(song) is None:
        window.tell("The song has no tune yet: write its notes under a line as tune: E4:1.5")
        return
    known = window.desk.state.setup.player.singer
    proposed = " ".join(str(pitch_of(midi, sharp_note(midi % 12))) for midi in known) if known else ""
    text = window.ask_name(QUESTION, proposed)
    if not text:
        return
    try:
        voice = read_voice(text)
        found = key_for(song, voice)
    except UserError as error:
        window.tell(str(error))
        return
    beyond = found.beyond(voice)
    fits = "the tune fits" if beyond <= 0 else f"the tune is still {semitones(beyond)} too wide"
    window.show_view("chart")
    tools = window.chart.tools
    tools.refresh()
    tools.try_key(found.key if found.by else None)
    window.say(pretty_signs(f"{found.words}: {fits}.{' Take it keeps it.' if found.by else ''}"))
