"""Lead-ins and fills: their notes lead where they say, are playable, and are heard in the performance."""

from itertools import product

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.core.rhythm.test_patterns import _one_hand_each, solved
from tests.songs import BUILDER
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.hands import Hands
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup, chosen_manner
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import usual_playing, with_fill, with_pattern
from yellow_hinge.core.rhythm.fills.kinds import fill_kind, fill_kinds, own_notes
from yellow_hinge.core.rhythm.fills.notes import notes_of
from yellow_hinge.core.rhythm.fills.offered import lead_in_at, offers, quarters_of
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.rhythm.striking import played
from yellow_hinge.core.rhythm.walking import near
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.songs.song_json import song_file


def row_of(meter, **options):
    song, solution = solved(meter, **options)
    return song, solution, played(solution, Playing(), usual_playing(song, "", Playing(), []))


def _leads_there(offer, row, place):
    """A lead-in ends where its chord begins, near its goal and not on it; what moves inside fills the chord."""
    here, last = row[place], offer.notes[-1]
    if offer.kind.leads_in:
        assert last.onset + last.length == here.start
        assert row[place - 1].start < offer.notes[0].onset
    elif offer.kind.into != "tune":
        assert last.onset + last.length == here.start + here.length
    if offer.kind.into == "top":
        assert 1 <= abs(last.midi - here.chordal.right[-1]) <= 3
        assert here.chordal.right[-1] not in {note.midi for note in offer.notes} or offer.kind.double
    elif offer.kind.into == "bass":
        assert min(abs(note.midi - here.chordal.left[0]) for note in offer.notes[-2:]) in (1, 2, 5, 7)
        assert here.chordal.left[0] not in {note.midi for note in offer.notes} or offer.kind.double


OPTIONS = [{}, {"bass": "theirs"}, {"bass": "theirs", "right": "free"}, {"melody": "top"}]


@pytest.mark.parametrize(("meter", "options"), some(product(["4/4", "3/4", "6/8", "7/8"], OPTIONS), 5), ids=str)
def test_every_offer_is_heard_leads_there_and_can_be_played(meter, options):
    if meter not in ("4/4", "3/4") and options.get("melody"):
        return
    song, solution, row = row_of(meter, **options)
    seen = set()
    for place, here in enumerate(row):
        for offer in offers(row, place, Playing()):
            seen.add(offer.kind.id)
            taken = with_fill(Playing(), Fill(here.moment.slot_id, offer.kind.id), True)
            for pattern in some(("held", "eighths", "waltz"), 3, place % 3):
                sounding = performed(solution, song, with_pattern(taken, 0, "both", pattern))
                for note in offer.notes:
                    assert any(
                        0 <= s.onset - note.onset < 120 and s.midi == note.midi and s.part == note.hand
                        for s in sounding.struck
                    ), (offer.kind.id, place, pattern)
                _one_hand_each(solution, sounding, offer.kind.id)
                if (
                    offer.kind.into == "top" and not offer.kind.double
                ):  # nothing of the hand sounds over the moving line
                    low, start = min(n.midi for n in offer.notes), offer.notes[0].onset
                    over = [
                        s
                        for s in sounding.struck
                        if s.part == offer.notes[0].hand and start <= s.onset < here.start and s.midi >= low
                    ]
                    assert len(over) == len(offer.notes), (offer.kind.id, place, pattern)
            _leads_there(offer, row, place)
    if options.get("melody"):
        assert {"tune-thirds", "tune-sixths", "tune-stops", "tune-low", "tune-grace"} <= seen
    else:
        assert not any(fill_kinds()[kind].into == "tune" for kind in seen)
    if options.get("bass"):
        assert not any(fill_kinds()[kind].into == "bass" for kind in seen)


# A chart in which every kind of the table has its place, and a hand that reaches a tenth.
EVERYWHERE = """key: C
meter: 4/4
tempo: 90
| C | Am7 / F6 / | G13 | C | Ab7 | G9 | F | C/E | Am | G6 | C6 | F | C |
"""


def test_every_kind_of_the_table_has_its_place():
    song = parse_chart(EVERYWHERE)
    seen = {kind.id for kind in fill_kinds().values() if kind.into == "tune"}
    for manner in ("hymn", "gospel", "solo-ballad", "jazz-alone"):
        for keys in ((), (60, 64, 69)):
            player = Player(Hands(left_reach=11, right_reach=11))
            setup = msgspec.structs.replace(chosen_manner(Setup(player=player), manner), colour=1)
            keeps = (Keep(song_file(song).song.sections[0].bars[-1].slots[0].id, "C", (48, 55), keys),) if keys else ()
            solution = solve_song(BUILDER, timeline(song_file(song).song), setup, keeps)
            row = played(solution, Playing(), usual_playing(song, "", Playing(), []))
            seen |= {offer.kind.id for place in range(len(row)) for offer in offers(row, place, Playing())}
    assert set(fill_kinds()) - seen == set()


def test_the_manners_own_come_first_and_ends_where_a_phrase_ends():
    _, _, row = row_of("4/4")
    for manner in ("gospel", "pop", "solo-ballad"):
        for place in range(1, len(row)):
            found = offers(row, place, Playing(), manner)
            ends = row[place].moment.ends or row[place - 1].moment.ends
            usual = [offer for offer in found if ends or not offer.kind.ends]
            assert [o.liked for o in usual] == sorted((o.liked for o in usual), reverse=True)
            if not ends:
                assert [o.kind.ends for o in found] == sorted(o.kind.ends for o in found)


def test_notes_of_ones_own_lead_in_and_go_along_with_the_chord():
    _, _, row = row_of("4/4")
    top = row[2].chordal.right[-1]
    name = own_notes("top", top, (top - 4, top + 2))
    kind = fill_kind(name)
    assert [note.midi for note in notes_of(kind, row, 2)] == [top - 4, top + 2]
    other = next(place for place in range(3, len(row)) if notes_of(kind, row, place))
    assert [n.midi - row[other].chordal.right[-1] for n in notes_of(kind, row, other)] == [-4, 2]
    taken = with_fill(Playing(), Fill(row[2].moment.slot_id, name), True)
    assert offers(row, 2, taken)[0].kind == kind
    assert offers(row, 2, taken)[0].taken
    for midis in ((), (top,) * 9, (top + 30,)):
        with pytest.raises(UserError):
            own_notes("top", top, midis)
    assert fill_kind("own top h+x") is None


def test_what_goes_along_with_the_tune_lies_under_every_note_of_it():
    song, solution, row = row_of("4/4", melody="top")
    under = {"tune-thirds": (3, 4), "tune-sixths": (8, 9), "tune-stops": range(3, 10), "tune-low": range(8, 13)}
    for name, far in under.items():
        for place, here in enumerate(row):
            notes = notes_of(fill_kind(name), row, place)
            own = set(here.chordal.chord.pitch_classes)
            assert name in ("tune-thirds", "tune-sixths") or all(note.midi % 12 in own for note in notes)
            tune = {here.start + tone.start: tone.midi for tone in here.tones if tone.begins}
            assert all(tune[note.onset] - note.midi in far for note in notes)
            if notes:
                taken = with_fill(Playing(), Fill(here.moment.slot_id, name), True)
                struck = {(s.onset, s.midi) for s in performed(solution, song, taken).struck if s.part == "right"}
                assert {(at, midi) for at, midi in tune.items() if midi} <= struck  # the tune stays


def test_a_walk_stays_in_the_key_until_its_last_note():
    song, _, row = row_of("4/4")
    walks = [o for p in range(len(row)) for o in offers(row, p, Playing()) if o.kind.id == "bass-walk-three"]
    assert walks
    for offer in walks:
        own = {pc for here in row for pc in here.chordal.chord.pitch_classes}
        assert all(near(note.midi, song.the_key) or note.midi % 12 in own for note in offer.notes[:-1])


def test_a_suspension_comes_late_and_resolves():
    song, solution, row = row_of("4/4")
    place, offer = next((p, o) for p in range(len(row)) for o in offers(row, p, Playing()) if o.kind.id == "suspension")
    late, resolved = offer.notes[: len(offer.notes) // 2], offer.notes[len(offer.notes) // 2 :]
    assert all(a.midi - b.midi in (-1, 1, 2) for a, b in zip(late, resolved, strict=True))
    sounding = performed(solution, song, with_fill(Playing(), Fill(row[place].moment.slot_id, "suspension"), True))
    first = [s.midi for s in sounding.struck if s.place == place and s.part == "right" and s.onset == row[place].start]
    assert {note.midi for note in late} <= set(first)
    assert not {note.midi for note in resolved} & set(first)


def test_a_fill_that_cannot_be_played_rests_and_one_that_is_unknown_too():
    song, solution, row = row_of("4/4")
    plain = performed(solution, song)
    for fill in (
        Fill(row[0].moment.slot_id, "top-two-up"),
        Fill(row[1].moment.slot_id, "no such"),
        Fill(9999, "top-grace"),
    ):
        assert performed(solution, song, Playing(fills=(fill,))).struck == plain.struck
    assert offers(row, 99, Playing()) == []


@settings(max_examples=examples(40), deadline=None)
@given(st.integers(1, 20), st.sampled_from(["4/4", "3/4", "6/8"]))
def test_a_lead_in_begins_where_it_is_asked_and_shares_the_time(quarters, meter):
    _, _, row = row_of(meter)
    for place, here in enumerate(row):
        for offer in offers(row, place, Playing()):
            moved = notes_of(offer.kind, row, place, quarters)
            assert [note.midi for note in moved] == [note.midi for note in offer.notes] or not moved
            if not offer.kind.leads_in:
                assert moved == offer.notes
            elif moved:
                assert row[place - 1].start < moved[0].onset
                assert moved[-1].onset + moved[-1].length == here.start
                fill = Fill(here.moment.slot_id, offer.kind.id, quarters)
                taken = Playing(fills=(fill,))
                assert lead_in_at(row, taken, place - 1, moved[0].midi) == (place, fill)
                beat = row[place - 1].moment.meter.beat_quarters * 480
                if quarters * beat / 4 < row[place - 1].length and quarters % len(offer.kind.steps) == 0:
                    assert quarters_of(row, place, fill) == quarters
                    assert here.start - moved[0].onset == quarters * beat / 4
    with pytest.raises(UserError):
        Fill(1, "top-grace", -1)


def test_what_goes_into_a_note_of_the_tune_goes_up_to_it_without_a_gap():
    song = parse_chart("key: C\n| C | F |\ntune: | G4:2 E5:2 | A4:4 |")
    solution = solve_song(BUILDER, timeline(song), Setup(melody="top"))
    row = played(solution, Playing(), usual_playing(song, "", Playing(), []))
    into = {name: notes_of(fill_kind(name), row, 0) for name in ("tune-slide", "tune-grace")}
    rows = {name: [(note.onset, note.length, note.midi) for note in notes] for name, notes in into.items()}
    assert rows == {"tune-slide": [(840, 60, 74), (900, 60, 75)], "tune-grace": [(900, 60, 75)]}


def test_taking_a_fill_again_lets_it_go():
    fill = Fill(3, "top-grace")
    taken = with_fill(Playing(), fill, True)
    assert with_fill(taken, fill, True) == taken
    assert with_fill(taken, fill, False) == Playing()
    assert patterns()
