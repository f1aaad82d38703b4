"""Rhythm judged: a player who is late, rushes, holds on, leaves out is told exactly that, and nothing else."""

from itertools import permutations
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples
from tests.core.sheet.charts import solved
from yellow_hinge.app.edits.state import state_of
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.passes import PieceRun, Round, Stretch, wanted_in
from yellow_hinge.app.practice.ports import PortClock
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.performing import performed
from yellow_hinge.core.practice.partner import Feel, in_time
from yellow_hinge.core.practice.pass_words import pass_words
from yellow_hinge.core.practice.timing import SKIP, WINDOW, PlayedKey, WantedStroke, _paired, judged
from yellow_hinge.io.songs.song_json import song_file

CHART = "key: C\ntempo: 90\nswing: straight\npattern: eighths\n| C | Am7 | Dm7 | G7 |\ntune: | E5:4 | C5:4 | F5:4 | D5:4 |\n"


def performance(text=CHART):
    state = state_of(song_file(parse_chart(text)))
    return performed(solved(state), state.song, song_file(state.song).playing)


SONG = performance()
APART = performance("key: C\ntempo: 90\nswing: straight\npattern: held\n| C | Gb | C | Gb |\n")  # no key stays


def run(feel, stretch=None, percent=100, passes=1, rises=False):
    """A player of a feel through a stretch, on a clock that is passed on."""
    told = []
    song = APART if feel.holds > 0 else SONG
    made = PieceRun([Round(song, stretch or Stretch(0, song.length))], percent, rises, told.append)
    now = 10.0
    made.begin(now)
    for _ in range(passes):
        for touch in in_time(made.wanted, feel, Random(3)):
            made.heard(NoteEvent(touch.kind, touch.midi, 80, now + touch.at))
        now += made.length
        assert made.look(now + 0.4)
        assert made.start == pytest.approx(now)
    return told, made


@pytest.mark.parametrize(
    ("feel", "said"),
    [
        (Feel(), "is in time"),
        (Feel(late=0.08), "is late, by 80 ms on average"),
        (Feel(late=-0.08), "is early, by 80 ms on average"),
        (Feel(drags=-0.24), "rushes, by"),
        (Feel(drags=0.24), "drags, by"),
        (Feel(holds=0.6), "too long"),
        (Feel(holds=-0.6), "too soon"),
        (Feel(missing=0.3), "leaves out"),
        (Feel(uneven=0.12), "is uneven"),
    ],
)
def test_a_player_is_told_exactly_what_was_otherwise(feel, said):
    (found,), _ = run(feel)
    words = pass_words(found)
    for hand in ("left", "right"):
        (own,) = [sentence for sentence in words if f" {hand} " in sentence]
        assert ";" not in own or feel.uneven, words  # what comes too soon cuts the one before
        assert said in own


def test_extra_keys_are_counted_and_forgiven_where_the_rest_is_right():
    made = PieceRun([Round(SONG, Stretch(0, SONG.length))])
    made.begin(0.0)
    for touch in in_time(made.wanted, Feel(), Random(1)):
        made.heard(NoteEvent(touch.kind, touch.midi, 80, touch.at))
    made.heard(NoteEvent("press", 30, 80, 1.0))
    assert made.look(made.length + 0.4)
    assert pass_words(made.passes[0])[-1] == "1 key is struck that is not in it."
    assert made.passes[0].whole


def test_the_pedal_holds_what_the_hand_lets_go_of():
    wanted = (WantedStroke("left", 48, 0.0, 1.0),)
    short = PlayedKey(48, 0.01, 0.3, 0.3)
    assert judged(wanted, [short]).strokes[0].over == pytest.approx(-0.7 + 0.0, abs=0.02)
    assert judged(wanted, [short._replace(end=1.0)]).strokes[0].over == 0.0


@pytest.mark.parametrize(("pedal", "too_soon"), [("each", False), ("never", True), ("away", True)])
def test_keys_that_are_let_go_at_once_sound_on_under_a_pedal_that_follows_the_chords(pedal, too_soon):
    made = PieceRun([Round(APART, Stretch(0, APART.length))])
    made.begin(0.0)
    touches = in_time(made.wanted, Feel(), Random(3))
    events = [NoteEvent("press", touch.midi, 80, touch.at) for touch in touches if touch.kind == "press"]
    events += [NoteEvent("lift", event.midi, 0, event.at + 0.1) for event in events]
    for beat in sorted({event.at for event in events if event.kind == "press"}) if pedal != "never" else ():
        events += [NoteEvent("pedal", 0, 0, beat - 0.01), NoteEvent("pedal", 1, 127, beat + 0.05)]
        events += [NoteEvent("pedal", 0, 0, beat + 0.3)] if pedal == "away" else []
    for event in sorted(events, key=lambda event: event.at):
        made.heard(event)
    assert made.look(made.length + 0.4)
    assert ("too soon" in " ".join(pass_words(made.passes[0]))) == too_soon


def test_every_pass_is_judged_and_the_tempo_rises_after_a_whole_one():
    told, made = run(Feel(), percent=50, passes=3, rises=True)
    assert len(told) == 3
    assert made.faster == 55
    assert run(Feel(late=0.2), percent=50, rises=True)[1].faster == 50


def test_hands_apart_the_tune_and_a_stretch_ask_for_what_is_struck_there():
    start, end = SONG.starts[1], SONG.starts[3]
    for hands, tune in (("both", False), ("left", False), ("right", True)):
        wanted, length = wanted_in(SONG, Stretch(start, end, hands, tune), 50)
        assert length == pytest.approx(2 * (end - start) / 480 * 60 / 90, abs=0.01)
        parts = {("tune", "right")} if tune else {(h, h) for h in ("left", "right") if hands in ("both", h)}
        struck = {(p, s.midi) for s in SONG.struck for part, p in parts if s.part == part and start <= s.onset < end}
        assert {(each.hand, each.midi) for each in wanted} == struck


def test_a_tune_that_the_right_hand_plays_is_practised_as_it_plays_it():
    top = performance(f"manner: hymn\n{CHART}")
    assert not any(struck.part == "tune" for struck in top.struck)
    wanted, _ = wanted_in(top, Stretch(0, top.length, "both", True), 100)
    assert {each.hand for each in wanted} == {"left", "right"}


times = st.lists(st.integers(0, 40).map(lambda n: n / 20), max_size=4, unique=True)


@settings(max_examples=examples(150))
@given(times, times)
def test_strokes_are_paired_as_brute_force_pairs_them(strokes, presses):
    strokes, presses = sorted(strokes), sorted(presses)

    def cost(late):
        found = [each for each in late if each is not None]
        return sum(map(abs, found)) + SKIP * (len(strokes) + len(presses) - 2 * len(found))

    best = cost([])
    padded = [*presses, *[None] * len(strokes)]
    for order in set(permutations(padded, len(strokes))):
        late = [press - at if press is not None else None for at, press in zip(strokes, order, strict=True)]
        if all(each is None or abs(each) <= WINDOW for each in late):
            best = min(best, cost(late))
    pairs = _paired(strokes, presses, 0.0)
    assert cost([presses[j] - strokes[i] for i, j in pairs]) == pytest.approx(best)


def test_a_port_stamps_by_its_own_time_however_late_the_window_is():
    now = [100.0]
    clock = PortClock(lambda: now[0])
    stamps = []
    for true, seen in ((0.0, 0.004), (0.5, 0.74), (1.0, 1.001), (1.25, 1.5)):  # when it came, when it was seen
        before = stamps[-1][0] if stamps else 0.0
        now[0] = 100.0 + seen
        stamps.append((true, clock.stamp(true - before)))
    assert [at - 100.0 - true for true, at in stamps] == pytest.approx([0.004, 0.004, 0.001, 0.001])


def test_rounds_are_judged_each_by_its_own_way():
    """Two ways in turn: what is right in one is wrong in the other."""
    made = PieceRun([Round(SONG, Stretch(0, SONG.length), "one"), Round(APART, Stretch(0, APART.length), "two")])
    now = 5.0
    made.begin(now)
    for number in range(4):
        assert made.round.words == ("one", "two")[number % 2]
        for touch in in_time(made.wanted, Feel(), Random(1)):
            made.heard(NoteEvent(touch.kind, touch.midi, 80, now + touch.at))
        now += made.length
        assert made.look(now + 0.4)
        assert made.passes[-1].whole
        assert 5.0 + made.offset == pytest.approx(now)
    made.passes.pop()
    made.at_percent(55)  # what sounds begins with the way that is next
    assert [own.words for own in made.ahead] == ["two", "one"]
    assert made.offset == 0


def test_what_was_struck_early_for_the_first_chord_begins_the_pass():
    pushed = performance("key: C\nswing: straight\npattern: pushed\n| C | Am7 | Dm7 | G7 | C | F |\n")
    early = [s for s in pushed.struck if s.part == "right" and s.onset < pushed.starts[s.place] < s.end]
    assert early
    place = early[0].place
    wanted, _ = wanted_in(pushed, Stretch(pushed.starts[place], pushed.length), 100)
    begins = {each.midi for each in wanted if each.hand == "right" and each.at == 0}
    assert {s.midi for s in early if s.place == place} <= begins
