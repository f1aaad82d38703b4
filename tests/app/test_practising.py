"""Whole sessions with a simulated player: every figure of the log is what it did."""

from collections import Counter
from datetime import UTC, datetime, timedelta, timezone
from random import Random

import pytest

from tests.songs import BUILDER
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.practice.log import PracticeLog
from yellow_hinge.app.practice.notes_in import NoteEvent, NotesIn
from yellow_hinge.app.practice.ports import SIMULATED, Ports, SimulatedBackend, SystemBackend
from yellow_hinge.app.practice.practising import PractisedSong, Practising, Told
from yellow_hinge.app.practice.programmes import DrillProgramme, SongProgramme
from yellow_hinge.app.practice.runs import Run
from yellow_hinge.app.practice.stretches import rests
from yellow_hinge.app.solving.twelve import in_twelve
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.setup import Setup, as_asked
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.practice.memory import due
from yellow_hinge.core.practice.partner import HALF, LATE, NEARLY, RIGHT, touches
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.song_json import song_file
from yellow_hinge.ui.practice.scene import log_scene, practised

CHART = "key: C\n[A]\n| C | Am7 | Dm7 | G7 | C |\n[B]\n| F | Fm6 | C |"
NOW = datetime(2026, 5, 1, 12, tzinfo=UTC)


class Clock:
    def __init__(self):
        self.now = 100.0

    def __call__(self):
        return self.now


def solved(chart=CHART):
    song = parse_chart(chart)
    return solve_song(BUILDER, timeline(song), Setup())


def session(tmp_path, programme, hands="both", limit=0.0, clock=None):
    clock, told = clock or Clock(), []
    log = PracticeLog(tmp_path)
    made = Practising(
        PractisedSong("s", "Song", "Take 1", hands), programme, log.cards("s"), log.add, clock,
        lambda: NOW + timedelta(seconds=clock.now), told.append, limit,
    )  # fmt: skip
    return made, clock, log, told


def play(made, clock, skill, chance, chords):
    """Play so many chords; what was done, as (item, errors, seconds) of each that counts."""
    done, held = [], set()
    for _ in range(chords):
        step = made.step
        if step is None:
            break
        begun, wanted = clock.now, step.wanted(made.piece.hands)
        if set(wanted) <= held:
            held = set()
        slips, last = 0, 0.0
        for touch in touches(wanted, skill, chance, sorted(held)):
            clock.now = begun + touch.at
            if touch.kind == "press":
                slips += touch.midi not in wanted
                last = touch.at
            made.heard(NoteEvent(touch.kind, touch.midi, 80, clock.now))
        held = set(wanted)
        if step.item:
            done.append((step.item, slips, round(last, 3)))
    return done


@pytest.mark.parametrize("skill", [RIGHT, LATE, NEARLY, HALF])
@pytest.mark.parametrize("hands", ["both", "left", "right"])
def test_every_figure_of_the_log_is_what_the_player_did(tmp_path, skill, hands):
    made, clock, log, _ = session(tmp_path, SongProgramme(solved(), hands), hands)
    done = play(made, clock, skill, Random(5), 60)
    runs = log.runs()
    assert [(run.item, run.errors, run.seconds) for run in runs] == done
    assert len(runs) > 20
    assert (made.right, made.wrong) == (sum(not d[1] for d in done), sum(bool(d[1]) for d in done))
    assert {run.hands for run in runs} == {hands}
    ids = {moment.slot_id for moment in timeline(parse_chart(CHART))}
    assert all({run.first, run.last} <= ids and run.take == "Take 1" for run in runs)
    assert set(log.cards("s")) == {run.item for run in runs}


def test_a_session_is_the_same_with_the_same_chance_and_another_with_another(tmp_path):
    def done(name, seed):
        made, clock, log, _ = session(tmp_path / name, SongProgramme(solved(), "both"))
        play(made, clock, NEARLY, Random(seed), 80)
        return [(run.item, run.errors, run.seconds, run.at) for run in log.runs()]

    assert done("a", 1) == done("b", 1)
    assert done("c", 2) != done("a", 1)


def test_what_goes_wrong_comes_again_more_often(tmp_path):
    made, clock, log, _ = session(tmp_path, SongProgramme(solved(), "both"))
    hard = made.step
    made.heard(NoteEvent("press", 30, 80, clock.now))
    made.heard(NoteEvent("lift", 30, 80, clock.now))
    play(made, clock, RIGHT, Random(1), 60)
    assert hard is not None
    counts = Counter(run.item for run in log.runs())
    assert max(counts.values()) <= 2 * min(counts.values()) + 4


def test_a_session_ends_after_its_time_and_says_so(tmp_path):
    made, clock, log, told = session(tmp_path, SongProgramme(solved(), "both"), limit=30.0)
    play(made, clock, LATE, Random(1), 200)
    assert made.over
    assert told[-1] == Told.ENDED
    assert 30 <= clock.now - 100 < 60
    before = len(log.runs())
    made.heard(NoteEvent("press", 60, 80, clock.now))
    assert len(log.runs()) == before


def test_a_chord_that_comes_again_is_struck_again(tmp_path):
    made, clock, log, _ = session(tmp_path, SongProgramme(solved("key: C\n| C | C | C |"), "both"))
    play(made, clock, RIGHT, Random(1), 12)
    assert log.runs()
    assert all(run.errors == 0 for run in log.runs())


def test_drills_go_round_the_keys_and_hands_apart(tmp_path):
    state = state_of(song_file(parse_chart("key: C\n| Dm7 | G7 | C |")))
    found = in_twelve(BUILDER, state, (0, 0, 0), (0, 2, 0), "fifths")
    made, clock, log, _ = session(tmp_path, DrillProgramme(found, "left"), "left")
    play(made, clock, RIGHT, Random(1), 36)
    keys = list(dict.fromkeys(run.key for run in log.runs()))
    assert len(keys) == 12
    assert keys[:3] == ["C major", "G major", "D major"]
    assert {run.kind for run in log.runs()} == {"drill"}


# --- where keys come from ---


def test_a_keyboard_is_found_lost_and_its_keys_go_up():
    heard, names = [], []
    notes = NotesIn(lambda: 1.0)
    notes.listeners.append(lambda event: heard.append((event.kind, event.midi)))
    backend = SimulatedBackend()
    ports = Ports((backend,), notes.message, names.append)
    ports.look()
    backend.plugged.append(SIMULATED)
    ports.look()
    assert names == [(SIMULATED,)]
    backend.send(0x93, 60, 90)  # any channel
    backend.send(0xB3, 64, 127)
    backend.send(0x90, 64, 80)
    backend.send(0x90, 64, 0)  # some keyboards lift so
    backend.send(0xE0, 0, 64)  # a bend is left aside
    backend.send(0x90)
    backend.plugged.clear()
    ports.look()
    assert heard == [("press", 60), ("pedal", 1), ("press", 64), ("lift", 64), ("lift", 60)]
    assert names[-1] == ()
    assert notes.down == frozenset()
    ports.close()


def test_a_key_that_two_sources_hold_is_up_when_both_let_go():
    heard = []
    notes = NotesIn(lambda: 0.0)
    notes.listeners.append(lambda event: heard.append(event.kind))
    notes.press(60, source="a")
    notes.press(60, source="b")
    notes.lift(60, "a")
    assert heard == ["press"]
    notes.lift(60, "b")
    notes.lift(60, "b")
    notes.press(200)
    assert heard == ["press", "lift"]


def test_without_the_library_or_a_sequencer_there_is_no_keyboard_and_a_reason(monkeypatch):
    backend = SystemBackend()
    assert backend.names() == [] or all(isinstance(name, str) for name in backend.names())
    assert backend.why or backend.names() is not None
    monkeypatch.setattr(
        "yellow_hinge.app.practice.ports.import_module", lambda name: (_ for _ in ()).throw(ImportError(name))
    )
    gone = SystemBackend()
    assert gone.names() == []
    assert "click the keys" in gone.why


@pytest.mark.parametrize(("seconds", "longest", "limit"), [(0.9, 30, 100.0), (2.0, 30, 200.0), (4.0, 7, 600.0)])
def test_a_month_of_practice_asks_again_within_days(seconds, longest, limit):
    """Each change is graded once a day, from its first attempt: gaps are those of hands that learn."""
    solution, clock, cards, gaps, kept = solved(), Clock(), {}, {}, []

    def keep(run, card):
        kept.append(run)
        if card:
            cards[run.item] = card
            gaps.setdefault(run.item, []).append((due(card) - run.at) / timedelta(days=1))

    for day in range(30):
        began = NOW + timedelta(days=day, hours=day % 3)
        start = clock.now
        made = Practising(
            PractisedSong("s", "Song", "Take 1", "both"), SongProgramme(solution, "both"), cards, keep, clock,
            lambda began=began, start=start: began + timedelta(seconds=clock.now - start), lambda told: None,
            limit,
        )  # fmt: skip
        graded = {item: len(found) for item, found in gaps.items()}
        while not made.over:
            wanted, at = made.step.wanted("both"), clock.now
            for midi in set(made.attempt.down) - set(wanted):
                made.heard(NoteEvent("lift", midi, 0, at))
            clock.now = at + seconds
            for midi in wanted:
                made.heard(NoteEvent("press", midi, 80, clock.now))
        assert all(len(found) - graded.get(item, 0) <= 1 for item, found in gaps.items())
    assert len(gaps) == 7
    for found in gaps.values():
        assert 1 <= found[0] <= 4
        assert max(found) <= longest


def test_a_session_that_waits_hears_nothing_and_loses_no_time(tmp_path):
    made, clock, _, told = session(tmp_path, SongProgramme(solved(), "both"), limit=60.0)
    clock.now += 10
    made.pause()
    clock.now += 500
    made.heard(NoteEvent("press", 60, 80, clock.now))
    assert (made.seconds_left, made.attempt.presses) == (50, ())
    made.resume()
    assert (made.seconds_left, made.attempt.since, made.over) == (50, clock.now, False)
    assert told[-1] == Told.ASKED


def test_the_simulated_players_answers_are_kept_apart(tmp_path):
    made, clock, log, _ = session(tmp_path, SongProgramme(solved(), "both"))
    made._simulated = lambda: True
    play(made, clock, RIGHT, Random(1), 6)
    assert log.count() == 0
    assert log.runs(simulated=True)
    assert log.cards("s") == {}


def test_minutes_are_those_from_chord_to_chord_on_the_players_days():
    zone = timezone(timedelta(hours=-8))
    late = datetime(2026, 5, 2, 6, 58, tzinfo=UTC)  # two minutes to eleven in the evening of the first
    runs = [
        Run(late + timedelta(seconds=n), "s", "S", "T", "hinge", "i", 0, 1, "", "", "both", 1.0) for n in (0, 30, 55)
    ]
    runs.append(Run(late + timedelta(seconds=500), "s", "S", "T", "hinge", "i", 0, 1, "", "", "both", 2.0))
    assert practised(runs) == pytest.approx((1 + 55 + 2) / 60)
    scene = log_scene(runs, late.astimezone(zone).date(), 420.0, 400.0, zone)
    assert scene.plots[0].points[0][0] == pytest.approx(415.0)


def test_sentences_speak_of_the_hand_that_plays_and_a_resting_hand_is_said():
    solution = solved("key: C\n| C | Am7 | Dm7 | G7 |")
    for hand, other in (("left", "Right"), ("right", "Left")):
        programme = SongProgramme(solution, hand)
        steps = [step for _ in range(3) for step in programme.next({}, datetime.now().astimezone())]
        words = [step.words for step in steps if step.before is not None]
        assert words
        assert not [each for each in words if other in each or other.lower() in each]
    song = parse_chart("key: C\n| C | F |")
    alone = solve_song(BUILDER, timeline(song), as_asked(Setup(right="free"), song))
    assert rests(alone, "right").startswith("The right hand rests")
    assert rests(alone, "left") == rests(alone, "both") == ""
