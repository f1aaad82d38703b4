"""Commands on takes, from any view: what the Takes view does without being looked at."""

from __future__ import annotations

from typing import Any

from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.takes import mix_state, song_of_its_own, switched, together
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.takes.take import apart_words


def take_do(window: Any, what: str) -> None:
    """Do what a button of the Takes view says, there."""
    if window.views.current != "takes":
        window.show_view("takes")
        window.views.worker("takes").at = window.desk.state.place
    window.views.worker("takes").do(what)


def next_take(window: Any, by: int) -> None:
    """Put the next take or the one before on the desk."""
    desk = window.desk
    takes = desk.state.takes
    take = takes[(desk.state.place + by) % len(takes)]
    show_take(window, take.id)
    window.say(f"Take {desk.state.place + 1}, {take.name}." if len(takes) > 1 else "There is one take.")


def show_take(window: Any, take: int) -> None:
    """Put a take on the desk by its id."""
    desk = window.desk
    found = next(each for each in desk.state.takes if each.id == take)
    desk.do(Edit(f"show {found.name}", switched(desk.state, take), "show a take"))


def compare_takes(window: Any) -> None:
    """Show two takes chord by chord, or the maps again."""
    window.show_view("takes")
    button = window.views.view("takes").buttons["compare"]
    button.setChecked(not button.isChecked())
    window.views.worker("takes").do("compare")


def play_mix(window: Any) -> None:
    """Play the mix, or stop."""
    window.show_view("takes")
    window.views.worker("takes").play_mix()


def export_mix(window: Any) -> None:
    """Ask for a file and write the mix to it."""
    window.saving.export_other(mix_state(window.desk.state), f"{window.desk.state.song.title} mix")


def tell_apart(window: Any) -> None:
    """Say which takes of the song that was opened have another key or other bars, and what can be done about it."""
    words = apart_words(window.desk.state)
    if words:
        act = {"Bring together": lambda: bring_together(window), "Good": lambda: None}
        window.news.tell(pretty_signs(words), act)


def bring_together(window: Any) -> None:
    """All takes in the song's key and bars, as one step of undo."""
    state = window.desk.state
    own = [take.id for take in state.takes if take.form is not None]
    for take in own:
        state = together(state, take)
    if not own:
        window.say("All takes have the song's key and bars.")
        return
    window.desk.do(Edit("bring the takes together", state))
    window.say("The takes share the song's key and bars now; chords of other bars rest.")


def to_a_song(window: Any) -> None:
    """Write the take shown to a file as a song by itself; it stays here until it is deleted."""
    state = window.desk.state
    try:
        made = song_of_its_own(state, state.take)
    except UserError as error:
        window.say(str(error))
        return
    window.saving.write_song(made)
