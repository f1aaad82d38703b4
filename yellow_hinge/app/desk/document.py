"""The open song as a document: opened, saved and rescued, edited with undo, and what the solver answers to it."""

from __future__ import annotations

import os
from pathlib import Path

import msgspec

from yellow_hinge.app.desk.looking import Event, Looking, same_question
from yellow_hinge.app.edits.editing import Edit, typed
from yellow_hinge.app.edits.history import History
from yellow_hinge.app.edits.kept import rested_words
from yellow_hinge.app.edits.state import State, file_of, state_of
from yellow_hinge.app.solving.elsewhere import Before, elsewhere
from yellow_hinge.app.solving.newest import Bug
from yellow_hinge.app.solving.solver import Answer
from yellow_hinge.core.chart.text import ChartReading, read_chart
from yellow_hinge.io.files import FileFault, write_atomic
from yellow_hinge.io.songs.song_json import SongFile, to_json

ENDING = ".hinge"
OLD_ENDING = ".json"  # of songs up to file version 4


# What a new song begins with: four lines to type over.
NEW_CHART = "title: New song\nkey: C\n[Verse]\n| C | Am | Dm | G |\n"


class Document(Looking):
    """Holds the song and tells listeners what changed: "typing" (before the text is read), "state", "solution",
    "selection" or "fault".

    `ask` puts a state to the solver; its answer comes back through `accept`.
    """

    # --- opening and saving ---
    def open(self, file: SongFile, path: Path | None, text: str = "", origin: str = "") -> None:
        """Take over a song; history starts anew. `path` is its own file, None for one that was imported or shipped,
        which is known by its `origin` until it is saved.
        """
        state = state_of(file, text)
        self.history = History(state)
        self.saved, self.path, self.selected = state, path, 0
        self.document = file.document or os.urandom(16).hex()
        self.origin = origin or self.document
        self.solution, self.fault, self.written, self.before = None, "", None, None
        self.memory.begin(state, file.hands)
        self.template = state.song if text == NEW_CHART else None
        self._after_state()

    def rescued(self, file: SongFile, path: Path | None, text: str = "") -> None:
        """Take over a song that a crash left behind, with its text as it was typed: it counts as not saved."""
        self.open(file, path)
        if text:
            reading = read_chart(text)
            self.do(typed(self.state, self.state, text, reading), reading)
            self.history = History(self.state)
        self.saved = State()
        self.tell(Event.STATE)

    def save(self, path: Path) -> bytes:
        """Write the song to its file; what was written. A song that goes to another file becomes another document.
        Raises FileFault; the song stays as it was.
        """
        if path.suffix.lower() != ENDING:
            raise FileFault(str(path), f"a song is saved with the ending {ENDING}; use Export for other kinds")
        elsewhere = self.path is not None and path.with_suffix("") != self.path.with_suffix("")
        document = os.urandom(16).hex() if elsewhere or not self.document else self.document
        hands = self.memory.hands(self.state)
        data = to_json(msgspec.structs.replace(file_of(self.state, self.reading), document=document, hands=hands))
        write_atomic(path, data)
        self.path, self.saved, self.document = path, self.state, document
        self.tell(Event.STATE)
        return data

    def put_version(self, label: str, file: SongFile) -> None:
        """Make an earlier version of the song the present one, as an edit."""
        self.do(Edit(label, state_of(file)))

    # --- edits ---
    def undo(self) -> str:
        """Take the last edit back; its label."""
        label = self.history.undo()
        self.before = None
        if label:
            self._after_state()
        return label

    def redo(self) -> str:
        """Do the last undone edit again; its label."""
        label = self.history.redo()
        self.before = None
        if label:
            self._after_state()
        return label

    def do(self, edit: Edit, reading: ChartReading | None = None) -> None:
        """Make what an edit gives the present state; edits with the same group in a row are one step of undo. `reading`
        is that of its text, where it is known.
        """
        if edit.state != self.state:
            same_text = edit.state.text == self.state.text
            self.rested = rested_words(self.state, edit.state)
            if not self.history.goes_on(edit.group):
                self.before = Before(self.solved_state, self.solution) if self.solution and self.solved else None
            self.history.push(edit.label, edit.state, edit.group)
            self._after_state(self.reading if same_text else reading)

    def _after_state(self, reading: ChartReading | None = None) -> None:
        self.reading = reading or read_chart(self.state.text)
        self.typed = self.state.text
        if self.state.emptied:
            self.solution, self.solved_state, self.written = None, State(), None
        self.tell(Event.STATE)
        if self.song.sections and not self.solved:
            self.asked = self._ask(self.state)

    # --- answers and selection ---
    def accept(self, answer: Answer | Bug) -> None:
        """An answer of the solver; older ones than the latest question are passed over, and one to a question that an
        edit took back. Raises what went wrong in the solver.
        """
        self.answered = max(self.answered, answer.number)
        if isinstance(answer, Bug):
            raise answer.error
        if answer.number < self.asked or self.state.emptied or not same_question(answer.state, self.state):
            return
        if answer.solution is None:
            self.fault = answer.fault
            self.tell(Event.FAULT)
            return
        self.beside = elsewhere(self.before, answer.state, answer.solution) if self.before else frozenset()
        self.fault, self.solution, self.solved_state, self.written = "", answer.solution, answer.state, None
        self.memory.learn(answer.state, answer.solution)
        self.selected = min(self.selected, max(0, len(answer.solution.voicings) - 1))
        self.tell(Event.SOLUTION)
