"""Lead-ins and fills: their notes lead where they say, are playable, and are heard in the performance."""

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests import examples, some
from tests.core.rhythm.test_patterns import _one_hand_each, solved
from yellow_hinge.core.errors import UserError
from yellow_hinge.core.performing import performed
from yellow_hinge.core.rhythm.asks import Fill, Playing, usual_playing, with_fill, with_pattern
from yellow_hinge.core.rhythm.fills import fill_kinds, lead_in_at, notes_of, offers, quarters_of
from yellow_hinge.core.rhythm.patterns import patterns
from yellow_hinge.core.rhythm.striking import played
from yellow_hinge.core.rhythm.walking import near


def row_of(meter, **options):
    song, solution = solved(meter, **options)
    return song, solution, played(solution, Playing(), usual_playing(song, "", Playing(), []))


OPTIONS = [{}, {"bass": "theirs"}, {"bass": "theirs", "right": "free"}, {"melody": "top"}]


@pytest.mark.parametrize(("meter", "options"), some(product(["4/4", "3/4", "6/8", "7/8"], OPTIONS), 3), ids=str)
def test_every_offer_is_heard_leads_there_and_can_be_played(meter, options):
    if meter not in ("4/4", "3/4") and options.get("melody"):
        return
    song, solution, row = row_of(meter, **options)
    seen = set()
    for place, here in enumerate(row):
        for offer in offers(row, place, Playing()):
            seen.add(offer.kind.id)
            taken = with_fill(Playing(), Fill(here.moment.slot_id, offer.kind.id), True)
            for pattern in ("held", "eighths", "waltz"):
                sounding = performed(solution, song, with_pattern(taken, 0, "both", pattern))
                for note in offer.notes:
                    assert any(
                        0 <= s.onset - note.onset < 120 and s.midi == note.midi and s.part == note.hand
                        for s in sounding.struck
                    ), (offer.kind.id, place, pattern)
                _one_hand_each(solution, sounding, offer.kind.id)
                if offer.kind.into == "top":  # nothing of the hand sounds over the moving line
                    low, start = min(n.midi for n in offer.notes), offer.notes[0].onset
                    over = [
                        s
                        for s in sounding.struck
                        if s.part == offer.notes[0].hand and start <= s.onset < here.start and s.midi >= low
                    ]
                    assert len(over) == len(offer.notes), (offer.kind.id, place, pattern)
            last = offer.notes[-1]
            if offer.kind.into == "top":
                assert 1 <= abs(last.midi - here.chordal.right[-1]) <= 3
                assert last.onset + last.length == here.start
            elif offer.kind.into == "bass":
                assert abs(last.midi - here.chordal.left[0]) in (1, 2, 5, 7)
            else:
                assert last.onset + last.length == here.start + here.length
    if not options and meter == "4/4":
        assert seen == set(fill_kinds())
    if options.get("bass"):
        assert not any(fill_kinds()[kind].into == "bass" for kind in seen)


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
            if offer.kind.into == "inside":
                assert moved == offer.notes
            elif moved:
                assert row[place - 1].start < moved[0].onset
                assert moved[-1].onset + moved[-1].length == here.start
                fill = Fill(here.moment.slot_id, offer.kind.id, quarters)
                taken = Playing(fills=(fill,))
                assert lead_in_at(row, taken, place - 1, moved[0].midi) == (place, fill)
                beat = row[place - 1].moment.meter.beat_quarters * 480
                if quarters * beat / 4 < row[place - 1].length and quarters % len(moved) == 0:
                    assert quarters_of(row, place, fill) == quarters
                    assert here.start - moved[0].onset == quarters * beat / 4
    with pytest.raises(UserError):
        Fill(1, "top-grace", -1)


def test_taking_a_fill_again_lets_it_go():
    fill = Fill(3, "top-grace")
    taken = with_fill(Playing(), fill, True)
    assert with_fill(taken, fill, True) == taken
    assert with_fill(taken, fill, False) == Playing()
    assert patterns()
