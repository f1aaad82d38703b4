"""What the command box offers beside the table of commands: what depends on the song and on what is there. Songs to
open, kinds of files to export, keys to go to, manners, wishes, patterns, sections, takes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import msgspec

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.playing.asking import all_patterns, take_pattern
from yellow_hinge.app.edits.other_key import OtherKey, other_keys
from yellow_hinge.core.leading.asking.manners import NONE, manners
from yellow_hinge.core.leading.asking.wishes import OF_SONG
from yellow_hinge.core.song.song import TEMPOS
from yellow_hinge.io.songs.demo import demo_names, demo_title
from yellow_hinge.ui.files.files import Files
from yellow_hinge.ui.takes.anywhere import Takes

# Where in the window these are found without the command box.
SHIPPED, LAST, EXPORT = "Song > Songs that ship", "Song > Last songs", "Song > Export"
KEYS, MANNER, WISHED = "Chart > To another key", "top bar, Manner", "Hinges, strip over the map"
PATTERNS, TAKES, RIBBON = "Playing, list of patterns", "Takes, the list", "the ribbon"
TEMPO, MOST_FOUND = "top bar, Tempo", 12
TURNED = ("bass", "melody", "loop", "vary")  # wishes that one command turns


class Offer(msgspec.Struct, frozen=True):
    """One thing that can be done now: where it is found, its name, what it does."""

    menu: str
    title: str
    tip: str
    do: Callable[[], object]


def _both(*do: Callable[[], object]) -> None:
    for each in do:
        each()


class Offers:
    """Makes them; `choose_manner` plays in a manner, by its id and the words of the edit, `loop` repeats what is
    marked.
    """

    def __init__(
        self, desk: Desk, files: Files, takes: Takes, choose_manner: Callable[[str, str], object],
        loop: Callable[[str], object],
    ) -> None:  # fmt: skip
        self.desk, self.files, self.takes, self._choose_manner, self.loop = desk, files, takes, choose_manner, loop

    def __call__(self) -> list[Offer]:
        """What can be done now, by name."""
        makers = (
            self._songs, self._exports, self._keys, self._manners, self._wishes, self._patterns, self._takes,
            self._sections,
        )  # fmt: skip
        return [offer for make in makers for offer in make()]

    def typed(self, words: str) -> list[Offer]:
        """What was typed may mean by itself: bars, a key, how far, a tempo, a place in the song."""
        makers = (self._bars_said, self._keys_said, self._tempo_said)
        return [*(offer for make in makers for offer in make(words)), *self.finds(words)[:MOST_FOUND]]

    def finds(self, words: str) -> list[Offer]:
        """The places of the song that answer to words."""
        from yellow_hinge.app.desk.finding import finds  # loaded with the first words, so that the window starts sooner

        desk = self.desk
        if desk.solution is None or not words.strip():
            return []
        return [
            Offer(find.why, find.title, "Go to this chord", partial(desk.selection.go, find.place))
            for find in finds(desk.solution, desk.answers.state.song, desk.state.memos, words)
        ]

    def _bars_said(self, words: str) -> Iterator[Offer]:
        from yellow_hinge.app.desk.finding import bars_said, span_places

        span, solution, selection = bars_said(words), self.desk.solution, self.desk.selection
        places = span_places(solution, self.desk.answers.state.song, span) if span and solution else range(0)
        if span is None or not places:
            return
        named = f"bar {span.first}" if span.first == span.last else f"bars {span.first} to {span.last}"
        go, mark = partial(selection.go, places[0]), partial(selection.mark_places, places)
        ways: dict[str, tuple[str, Callable[[], object]]] = {
            "": (f"Go to {named}", go), "mark": (f"Mark {named}", partial(_both, go, mark)),
            "loop": (f"Loop {named}", partial(_both, go, mark, partial(self.loop, "mark"))),
        }  # fmt: skip
        wanted = span.do if span.do in ways else "mark" if span.do else ""
        for do in dict.fromkeys((wanted, *ways)):
            yield Offer(RIBBON, ways[do][0], "Bars are counted through the song as it is written", ways[do][1])

    def _keys_said(self, words: str) -> Iterator[Offer]:
        from yellow_hinge.app.desk.finding import key_said, way_said

        key, by = key_said(words), way_said(words)
        for other, offer in self._other_keys() if key is not None or by is not None else ():
            if other.by == by if by is not None else key is not None and other.key.tonic.pc == key.tonic.pc:
                yield offer

    def _tempo_said(self, words: str) -> Iterator[Offer]:
        from yellow_hinge.app.desk.finding import tempo_said

        tempo = tempo_said(words)
        if tempo is not None and TEMPOS[0] <= tempo <= TEMPOS[1]:
            yield Offer(TEMPO, f"Tempo {tempo}", "Beats a minute", partial(self.desk.put_tempo, tempo))

    def _songs(self) -> Iterator[Offer]:
        for name in demo_names():
            yield Offer(SHIPPED, demo_title(name), "Open this song that ships", partial(self.files.demo, name))
        for text in self.files.recent:
            yield Offer(LAST, Path(text).stem, f"Open {text}", partial(self.files.again, Path(text)))

    def _exports(self) -> Iterator[Offer]:
        from yellow_hinge.io.formats import WRITERS

        export = self.files.saving.export
        for ending, kind in WRITERS.items():
            yield Offer(EXPORT, f"Export {kind.name} ({ending})", f"Write a {ending} file", partial(export, ending))

    def _keys(self) -> Iterator[Offer]:
        return (offer for _, offer in self._other_keys())

    def _other_keys(self) -> Iterator[tuple[OtherKey, Offer]]:
        song = self.desk.song
        if not song.sections or self.desk.document.reading.faults:
            return
        for other in other_keys(song):
            if other.key != song.the_key:
                do = partial(self.desk.change_key, other.key)
                yield other, Offer(KEYS, f"Play in {other.words}", "The song in another key", do)

    def _manners(self) -> Iterator[Offer]:
        for name, title in ((NONE, "none"), *((manner.id, manner.name) for manner in manners().values())):
            label = f"manner {title.lower()}" if name != NONE else "no manner"
            do = partial(self._choose_manner, name, label)
            yield Offer(MANNER, f"Manner: {title}", "Bass, colour, style, hands and notes at once", do)

    def _wishes(self) -> Iterator[Offer]:
        for kind in (kind for kind in OF_SONG if kind.name not in TURNED):
            for named in kind.offers:
                do = partial(self.desk.change_setup, kind.label(named.value), **{kind.name: named.value})
                title = f"{kind.name.capitalize()}: {kind.said(named.value)}"
                yield Offer(WISHED, title, named.tip or kind.option, do)

    def _patterns(self) -> Iterator[Offer]:
        for pattern in all_patterns(self.desk) if self.desk.solution else ():
            do = partial(take_pattern, self.desk, "song", "both", pattern.id)
            yield Offer(PATTERNS, f"Play as {pattern.name}", "How the song's hands are struck", do)

    def _takes(self) -> Iterator[Offer]:
        for take in self.desk.state.others:
            do = partial(self.takes.show, take.id)
            yield Offer(TAKES, f"Show the take {take.name}", "Put this take on the desk", do)

    def _sections(self) -> Iterator[Offer]:
        solution, song = self.desk.solution, self.desk.answers.state.song
        begun = -1
        for index, voicing in enumerate(solution.voicings if solution else ()):
            if voicing.here.section != begun and voicing.here.section < len(song.sections):
                begun = voicing.here.section
                do = partial(self.desk.selection.go, index)
                yield Offer(RIBBON, f"Go to {song.sections[begun].name}", "Select its first chord", do)
