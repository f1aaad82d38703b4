"""The open song as a document: opened, saved and rescued, edited with undo."""

from __future__ import annotations

import os
from collections import OrderedDict
from pathlib import Path

import msgspec

from yellow_hinge.app.desk.answers import Answers
from yellow_hinge.app.desk.events import Event, Hub
from yellow_hinge.app.edits.editing import Edit, typed
from yellow_hinge.app.edits.history import History
from yellow_hinge.app.edits.resting import rested_words
from yellow_hinge.app.edits.state import State, file_of, state_of
from yellow_hinge.app.edits.touched import Touched, touched
from yellow_hinge.core.chart.text import ChartReading, read_chart
from yellow_hinge.core.song.song import Song
from yellow_hinge.io.files import FileFault, write_atomic
from yellow_hinge.io.songs.migrations import SongFile
from yellow_hinge.io.songs.song_json import to_json

ENDING = ".hinge"
MOST_READ = 16
OLD_ENDING = ".json"  # of songs up to file version 4


# What a new song begins with: four lines to type over.
NEW_CHART = "title: New song\nkey: C\n[Verse]\n| C | Am | Dm | G |\n"


class Document:
    """The song with its history, its file, and its chart as it is read."""

    def __init__(self, hub: Hub, answers: Answers) -> None:
        self._hub, self._answers = hub, answers
        self.history: History[State] = History(State())
        self.reading: ChartReading = read_chart("")
        self._readings: OrderedDict[str, ChartReading] = OrderedDict()  # of the last charts
        self.rested = ""  # what the last edit laid to rest in takes that are not shown
        self.touched = Touched.ALL  # what the last edit, undo or redo touched
        self.path: Path | None = None
        self.saved: State = self.history.state
        self.origin = ""  # what an unsaved song is known by: its file's digest, or one of its own
        self.template: Song | None = None  # what a new song begins with, until it is typed over
        self.own = ""  # the song's own name wherever its file goes
        self.typed = ""  # the chart's text to the last letter

    @property
    def state(self) -> State:
        """The present state."""
        return self.history.state

    @property
    def changed(self) -> bool:
        """Whether something is not saved yet."""
        return self.state != self.saved

    @property
    def known_by(self) -> str:
        """What the practice log knows the song by."""
        return self.own if self.path else self.origin

    # --- opening and saving ---
    def open(self, file: SongFile, path: Path | None, text: str = "", origin: str = "") -> None:
        """Take over a song; history starts anew. `path` is its own file, None for one that was imported or shipped,
        which is known by its `origin` until it is saved.
        """
        state = state_of(file, text)
        self.history = History(state)
        self.saved, self.path = state, path
        self.own = file.document or os.urandom(16).hex()
        self.origin = origin or self.own
        self._answers.restart(state, file.hands)
        self.template = state.song if text == NEW_CHART else None
        self._hub.tell(Event.OPENED)
        self._after(Touched.ALL)

    def rescued(self, file: SongFile, path: Path | None, text: str = "") -> None:
        """Take over a song that a crash left behind, with its text as it was typed: it counts as not saved."""
        self.open(file, path)
        if text:
            reading = read_chart(text)
            self.do(typed(self.state, self.state, text, reading), reading)
            self.history = History(self.state)
        self.saved = State()
        self._tell(Touched.ALL)

    def save(self, path: Path) -> bytes:
        """Write the song to its file; what was written. A song that goes to another file becomes another document.
        Raises FileFault; the song stays as it was.
        """
        if path.suffix.lower() != ENDING:
            raise FileFault(str(path), f"a song is saved with the ending {ENDING}; use Export for other kinds")
        elsewhere = self.path is not None and path.with_suffix("") != self.path.with_suffix("")
        own = os.urandom(16).hex() if elsewhere or not self.own else self.own
        hands = self._answers.memory.hands(self.state)
        data = to_json(msgspec.structs.replace(file_of(self.state, self.reading), document=own, hands=hands))
        write_atomic(path, data)
        self.path, self.saved, self.own = path, self.state, own
        self._tell(Touched.NOTHING)
        return data

    def put_version(self, label: str, file: SongFile) -> None:
        """Make an earlier version of the song the present one, as an edit."""
        self.do(Edit(label, state_of(file)))

    # --- edits ---
    def undo(self) -> str:
        """Take the last edit back; its label."""
        before, label = self.state, self.history.undo()
        return self._gone_to(before, label)

    def redo(self) -> str:
        """Do the last undone edit again; its label."""
        before, label = self.state, self.history.redo()
        return self._gone_to(before, label)

    def _gone_to(self, before: State, label: str) -> str:
        self._answers.forget_before()
        if label:
            self._after(touched(before, self.state))
        return label

    def do(self, edit: Edit, reading: ChartReading | None = None) -> None:
        """Make what an edit gives the present state; edits with the same group in a row are one step of undo. `reading`
        is that of its text, where it is known.
        """
        before = self.state
        if edit.state != before:
            self.rested = rested_words(before, edit.state)
            if not self.history.goes_on(edit.group):
                self._answers.begin(before)
            self.history.push(edit.label, edit.state, edit.group)
            same_text = edit.state.text == before.text
            self._after(touched(before, edit.state), self.reading if same_text else reading)

    def _after(self, what: Touched, reading: ChartReading | None = None) -> None:
        faults = self.reading.faults
        self.reading = self._read(self.state.text, reading)
        self.typed = self.state.text
        self._answers.follow(self.state)
        # What is read of a chart with mistakes, and where they stand, follows from all of its text.
        self._tell(Touched.ALL if faults or self.reading.faults else what)
        self._answers.look(self.state)

    def _read(self, text: str, reading: ChartReading | None = None) -> ChartReading:
        """A chart as it is read, `reading` where that is known; those of the last states are."""
        if reading is not None or text not in self._readings:
            self._readings[text] = reading or read_chart(text)
        self._readings.move_to_end(text)
        while len(self._readings) > MOST_READ:
            self._readings.popitem(last=False)
        return self._readings[text]

    def _tell(self, what: Touched) -> None:
        self.touched = what
        self._hub.tell(Event.STATE)
