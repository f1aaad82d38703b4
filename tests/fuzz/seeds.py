"""Whole files of every kind to begin from, made by the program's own writers and by hand."""

import io
import json
import zipfile
from pathlib import Path

from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.asking.keeps import Keep
from yellow_hinge.core.leading.asking.setup import Player, Setup, Wish
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.shapes.catalogue import MyShape
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.formats import USUAL, WRITERS
from yellow_hinge.io.songs.demo import demo_song
from yellow_hinge.io.songs.song_json import song_file, to_json

CHART = Path(__file__).with_name("seed.chart.txt").read_text("utf-8")

CHORDPRO = Path(__file__).with_name("seed.cho.txt").read_text("utf-8")


def score_xml(title="Seed", rehearsal="A", lyric="home", kind="minor-seventh"):
    return (
        '<?xml version="1.0" encoding="UTF-8"?><score-partwise version="3.1">'
        f"<work><work-title>{title}</work-title></work>"
        '<part-list><score-part id="P1"><part-name>Voice</part-name></score-part></part-list><part id="P1">'
        '<measure number="1"><attributes><divisions>2</divisions><key><fifths>2</fifths><mode>major</mode></key>'
        "<time><beats>4</beats><beat-type>4</beat-type></time></attributes>"
        f"<direction><direction-type><rehearsal>{rehearsal}</rehearsal></direction-type></direction>"
        f"<harmony><root><root-step>D</root-step></root><kind>{kind}</kind></harmony>"
        "<note><pitch><step>A</step><octave>4</octave></pitch><duration>8</duration>"
        f"<lyric><syllabic>single</syllabic><text>{lyric}</text></lyric></note></measure>"
        '<measure number="2"><barline location="left"><repeat direction="forward"/></barline>'
        "<harmony><root><root-step>G</root-step></root><kind>dominant</kind>"
        "<bass><bass-step>B</bass-step></bass></harmony>"
        "<note><rest/><duration>8</duration></note>"
        '<barline location="right"><repeat direction="backward"/></barline></measure></part></score-partwise>'
    ).encode()


def packed(score):
    """A score as a compressed file."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("META-INF/container.xml", "<container/>")
        archive.writestr("score.xml", score)
    return held.getvalue()


def rich_song():
    song = parse_chart(CHART.replace("[Verse | one]", "[Verse]"))
    slot = song.sections[0].bars[0].slots[0]
    keep = Keep(slot.id, slot.symbol, (34, 46), (61, 65, 70))
    player = Player(shapes=(MyShape("Wide", "1 5 9", "3 5 1"), MyShape("High", "1", "3' 7 9")))
    setup = Setup(player=player, wishes=(Wish(song.sections[1].id, colour=3),))
    return song_file(song, document="0" * 32, setup=setup, keeps=(keep,))


def corpus(kind, ending):
    """The files of a kind that tests/io/corpus has."""
    folder = Path(__file__).parents[1] / "io" / "corpus" / kind
    return [path.read_bytes() for path in sorted(folder.glob(f"*{ending}"))]


def seeds():
    """Bytes of a good file of every kind, by kind."""
    file = song_file(demo_song("slack-tide"))
    midi = WRITERS[".mid"].write(file, solve_song(Builder(), timeline(file.song), file.setup), USUAL)
    score = score_xml()
    song = to_json(rich_song())
    old = json.dumps({"format": "yellow-hinge-song", "version": 1, "song": {"sections": []}}).encode()
    scores = [score, *corpus("scores", ".musicxml")]
    return {
        "chart": [CHART.encode(), b"| C | F7/6 |\n"],
        "chordpro": [CHORDPRO.encode(), *corpus("chordpro", ".cho")],
        "pasted": corpus("pasted", ".txt"),
        "song": [song, old],
        "fields": [song],
        "midi": [midi, *corpus("midi", ".mid")],
        "score": scores,
        "elements": scores,
        "messages": corpus("midi", ".mid"),
        "packed": [packed(each) for each in scores[:12]],
    }


NAMES = {"chart": "x.chart", "chordpro": "x.cho", "pasted": "x.txt", "song": "x.hinge", "fields": "x.hinge", "midi": "x.mid",
    "score": "x.xml", "elements": "x.xml", "messages": "x.mid", "packed": "x.mxl"}  # fmt: skip
