"""Takes from any room: going through them, bringing them together, their mix as a file."""

from __future__ import annotations

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.takes import mix_state, song_of_its_own, switched, together
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.pitch.pitch import pretty_signs
from yellow_hinge.core.takes.take import apart_words
from yellow_hinge.ui.commands import Command, Commands
from yellow_hinge.ui.files.saving import Saving
from yellow_hinge.ui.parts.telling import GOOD, Teller


class Takes:
    """What is done with takes without looking at them."""

    def __init__(self, desk: Desk, teller: Teller, saving: Saving) -> None:
        self.desk, self.teller, self.saving = desk, teller, saving

    def go(self, by: int) -> None:
        """Put the next take or the one before on the desk."""
        takes = self.desk.state.takes
        self.show(takes[(self.desk.state.place + by) % len(takes)].id)
        words = f"Take {self.desk.state.place + 1}, {self.desk.state.name}." if len(takes) > 1 else "There is one take."
        self.teller.say(words)

    def show(self, take: int) -> None:
        """Put a take on the desk by its id."""
        found = next(each for each in self.desk.state.takes if each.id == take)
        self.desk.document.do(Edit(f"show {found.name}", switched(self.desk.state, take), "show a take"))

    def export_mix(self) -> None:
        """Ask for a file and write the mix to it."""
        self.saving.export_other(mix_state(self.desk.state), f"{self.desk.state.song.title} mix")

    def tell_apart(self) -> None:
        """Say which takes of the song that was opened have another key or other bars, and what can be done about it."""
        words = apart_words(self.desk.state)
        if words:
            self.teller.news.tell(pretty_signs(words), {"Bring together": self.bring_together, **GOOD})

    def bring_together(self) -> None:
        """All takes in the song's key and bars, as one step of undo."""
        state = self.desk.state
        own = [take.id for take in state.takes if take.form is not None]
        for take in own:
            state = together(state, take)
        if not own:
            self.teller.say("All takes have the song's key and bars.")
            return
        self.desk.document.do(Edit("bring the takes together", state))
        self.teller.say("The takes share the song's key and bars now; chords of other bars rest.")

    def to_a_song(self) -> None:
        """Write the take shown to a file as a song by itself; it stays here until it is deleted."""
        state = self.desk.state
        try:
            made = song_of_its_own(state, state.take)
        except UserError as error:
            self.teller.say(str(error))
            return
        self.saving.write_song(made)


# fmt: off
COMMANDS: Commands[Takes] = Commands(Takes, (
    Command("take_next", "Takes", "Next take", ("Ctrl+PgDown",), "Show the take after this one, in any view",
            lambda takes: takes.go(1)),
    Command("take_before", "Takes", "Take before", ("Ctrl+PgUp",), "Show the take before this one, in any view",
            lambda takes: takes.go(-1)),
    Command("take_together", "Takes", "Bring takes together", (), "Takes in another key get the song's key and bars",
            lambda takes: takes.bring_together()),
    Command("take_song", "Takes", "Make it a song of its own…", (), "Write this take to a file as a song by itself",
            lambda takes: takes.to_a_song()),
    Command("export_mix", "Takes", "Export the mix…", (), "Write the mix as MIDI, sound, a table or a text sheet",
            lambda takes: takes.export_mix(), on=("cell",)),
))
# fmt: on
