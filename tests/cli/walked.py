"""Walks over the desk and through practice sessions, told as text for `said`: after each step, what of the song's file
is otherwise, the line at the window's foot and the hands.
"""

from __future__ import annotations

import difflib
import json
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory
from typing import Any
from zlib import crc32

from yellow_hinge.app.desk.desk import Desk
from yellow_hinge.app.desk.finding import finds
from yellow_hinge.app.desk.sayings import song_words
from yellow_hinge.app.edits import bars, takes, wishing
from yellow_hinge.app.edits.editing import Edit
from yellow_hinge.app.edits.other_key import other_keys
from yellow_hinge.app.edits.own_hands import beside, freed, own_chords
from yellow_hinge.app.edits.state import State, changed_in, file_of, state_of
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.practising import PractisedSong, Practising
from yellow_hinge.app.practice.programmes import BassProgramme, DrillProgramme, Programme, SongProgramme
from yellow_hinge.app.practice.runs import log_csv
from yellow_hinge.app.solving.comparing import compared, figures, joints
from yellow_hinge.app.solving.solver import answer
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.chart.edit import insert_bar
from yellow_hinge.core.leading.answer import Solution, options
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.pitch.key import parse_key
from yellow_hinge.core.practice.memory import due
from yellow_hinge.core.practice.partner import HALF, LATE, NEARLY, RIGHT, touches
from yellow_hinge.core.symbols.keyfinding import find_key, key_with_signature
from yellow_hinge.core.symbols.symbol import parse_symbol
from yellow_hinge.core.takes.mixing import choices, mixed
from yellow_hinge.io.songs.demo import demo_file
from yellow_hinge.io.songs.song_json import to_json

BEGUN = datetime(2026, 5, 1, 12, tzinfo=UTC)


def _opened(name: str) -> Desk:
    builder, number = Builder(), [0]

    def ask(state: State) -> int:
        number[0] += 1
        desk.accept(answer(builder, number[0], state))
        return number[0]

    desk = Desk(ask)
    file, text = demo_file(name)
    desk.document.open(file, None, text)
    return desk


def _go(desk: Desk, place: int) -> Desk:
    desk.selection.go(place)
    return desk


def _wish(desk: Desk, scope: Any, **fields: Any) -> None:
    assert desk.selection.moment is not None
    desk.put_setup(f"{fields}", wishing.with_wish(desk.state.setup, desk.selection.moment, scope, **fields))


def _copy(desk: Desk, hands: bool) -> None:
    clip = bars.copied(desk.state, (0, 0), (0, 1), desk.solution)
    desk.edit_state("paste bars", lambda state: bars.pasted(state, clip, (0, 0), hands))


def _retype(desk: Desk, old: str, new: str) -> None:
    desk.type_text(desk.state.text.replace(old, new, 1))


def _put(desk: Desk, state: State) -> None:
    desk.document.do(Edit("put", state))


STEPS: tuple[tuple[str, Callable[[Desk], object]], ...] = (
    ("another way", lambda desk: _go(desk, 2).take(desk.selection.options()[-1])),
    ("hold the top", lambda desk: _go(desk, 5).hold_top()),
    ("one longer", lambda desk: desk.hold_top()),
    ("keep the left", lambda desk: _go(desk, 7).toggle_keep("left")),
    ("keep another's top", lambda desk: _go(desk, 9).toggle_keep("top")),
    ("colour a bar", lambda desk: _wish(desk, "bar", colour=2)),
    ("lift a section", lambda desk: _wish(desk, "section", lift=5)),
    ("families of a chord", lambda desk: _wish(desk, "chord", families=("octave-triad",))),
    ("their bass", lambda desk: desk.turn("bass")),
    ("the others as they were", lambda desk: desk.keep_others()),
    ("a loop", lambda desk: desk.turn("loop")),
    ("a bar more", lambda desk: desk.edit_chart("insert", lambda song: insert_bar(song, (0, 1)))),
    ("two bars again", lambda desk: _copy(desk, True)),
    ("without the first", lambda desk: desk.edit_chart("cut", lambda song: bars.without_bars(song, (0, 0), (0, 2)))),
    ("another key", lambda desk: desk.change_key(parse_key("Ab"))),
    ("three takes", lambda desk: _put(desk, takes.three(desk.state))),
    ("the second", lambda desk: _put(desk, takes.switched(desk.state, desk.state.takes[1].id))),
    ("slower", lambda desk: desk.change_tempo(-7)),
    ("a fault typed", lambda desk: _retype(desk, "|", "| Hm7 |")),
    ("refused", lambda desk: desk.change_key(parse_key("F"))),
    ("taken back", lambda desk: desk.document.undo()),
    ("all let go", lambda desk: desk.free_all()),
    ("rests let go", lambda desk: desk.free_resting()),
)  # fmt: skip


def _hands(solution: Solution | None) -> str:
    if solution is None:
        return "none"
    return "; ".join(f"{v.here.symbol} {v.left} {v.right}" for v in solution.voicings[:12])


def _file(desk: Desk) -> list[str]:
    return json.dumps(json.loads(to_json(file_of(desk.state))), indent=0, ensure_ascii=False).splitlines()


def over_the_desk(name: str) -> str:
    """The desk's walk over a demo song, forward and back."""
    desk, rows = _opened(name), []
    last, first = _file(desk), _file(desk)
    for words, do in STEPS:
        do(desk)
        now = _file(desk)
        changed = [
            row for row in difflib.unified_diff(last, now, n=0, lineterm="") if row[:2] not in ("--", "++", "@@")
        ]
        told = f"{crc32(chr(10).join(changed).encode()):08x}" if len(changed) > 60 else " ".join(changed)
        rows += [f"== {words}", told, song_words(desk), desk.answers.fault or "", _hands(desk.solution)]
        last = now
    back = 0
    while desk.document.undo():
        back += 1
    rows.append(f"{back} steps back: {'as it was' if _file(desk) == first else 'otherwise'}")
    return "\n".join(rows) + "\n"


def beside_each_other(name: str) -> str:
    """Three takes of a demo song: figures, differences, a mix and its joints; what is found; other keys."""
    file, text = demo_file(name)
    state = takes.three(state_of(file, text))
    builder, rows = Builder(), []
    solutions = [answer(builder, 1, takes.switched(state, take.id)).solution for take in state.takes]
    for above, (take, solution) in zip((None, *solutions), zip(state.takes, solutions, strict=True), strict=False):
        rows.append(f"{take.name}: {figures(solution, above)}")
    rows += [str((c.motions, c.only_one, c.only_other)) for c in compared(solutions[0], solutions[-1])[:12]]
    for at, each in enumerate(choices(state)[:4]):
        state = takes.with_choice(state, each.section, each.turn, state.takes[at % len(state.takes)].id)
    mix = mixed(state)
    solution = answer(builder, 1, takes.mix_state(state)).solution
    rows += [f"{j.hinge} {j.motion} {j.cost} {j.easier_motion} {j.easier}" for j in joints(solution, mix)]
    rows += [str(find) for word in ("7", "E4", "maj7", "bar") for find in finds(solution, state.song, (), word)[:5]]
    rows += [f"{key.way}: {key.words}" for key in other_keys(state.song)]
    kept = changed_in(state, text=text)
    rows.append(str(own_chords(kept, solution)))
    rows += [str(each) for each in beside(kept, solution, freed(builder, kept))[:8]]
    rows += [str(option) for option in options(solution, 1)[:12]]
    return "\n".join(rows) + "\n"


def _programmes(name: str) -> dict[str, Programme]:
    file, text = demo_file(name)
    state = state_of(file, text)
    solution = answer(Builder(), 1, state).solution
    assert solution is not None
    keys = in_twelve(Builder(), state, (0, 0, 0), (0, 2, 0), "fifths")
    return {
        "right": SongProgramme(solution, "right"), "both": SongProgramme(solution, "both"),
        "part": SongProgramme(solution, "left", range(2, 6)), "drill": DrillProgramme(keys, "both"),
        "bass": BassProgramme(solution, Random(4)),
    }  # fmt: skip


def practised(name: str) -> str:
    """Sessions with players of four skills: what is asked, and the log."""
    rows = []
    for (kind, programme), skill in zip(_programmes(name).items(), (RIGHT, NEARLY, LATE, HALF, RIGHT), strict=True):
        with TemporaryDirectory() as folder:
            log, now, chance = PracticeLog(Path(folder)), [100.0], Random(kind)
            session = Practising(
                PractisedSong("s", "Song", "Take 1", {"both": "both", "drill": "both", "part": "left"}.get(kind, "right")),
                programme, {}, log.add, lambda now=now: now[0],
                lambda now=now: BEGUN + timedelta(seconds=now[0]), lambda told: None, 400.0,
            )  # fmt: skip
            for _ in range(30):
                if (step := session.step) is None:
                    break
                rows.append(f"{step.words} {step.item} {step.kind} {step.apart}")
                begun, wanted = now[0], step.wanted(session.piece.hands)
                for touch in touches(wanted, skill, chance, ()):
                    now[0] = begun + touch.at
                    session.heard(NoteEvent(touch.kind, touch.midi, 80, now[0]))
                if session.step is step:
                    session.time_up()
            runs = log.runs()
            rows += [log_csv(runs), *(f"{item} {due(card)}" for item, card in sorted(log.cards("s").items()))]
            rows += [f"{song} {standing}" for song, standing in log.standings(BEGUN + timedelta(days=3)).items()]
            rows.append(f"{session.right} right, {session.wrong} wrong, {session.seconds_left:.3f} s left")
            log.close()
    return "\n".join(rows) + "\n"


def keys_heard(rest: str) -> str:
    """The key that is heard in a chord and one on each of the twelve roots, and how sure it is; likewise by the
    signature of no sharp and no flat.
    """
    rows = []
    home = parse_symbol(rest)
    for root in ("C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"):
        for kind in ("", "m", "7", "m7b5"):
            row = [(home, 4.0), (parse_symbol(root + kind), 2.0), (parse_symbol(root + kind), 3.0)]
            found = find_key(row)
            assert found is not None
            signed = key_with_signature(0, row)
            rows.append(f"{root}{kind}: {found.key} {found.confidence:.3f} {found.runner_up} {signed}\n")
    return "".join(rows)


WALKS = {"guessed": keys_heard, "desk": over_the_desk, "takes": beside_each_other, "practice": practised}
