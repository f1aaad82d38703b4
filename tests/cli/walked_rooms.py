"""Walks through patterns, styles, lines, practice in time, the stage, the songbook and the player's own data, told as
text for `said`.
"""

from __future__ import annotations

from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory
from zlib import crc32

from tests.core.rhythm.truth import CHARTS
from yellow_hinge.app.mine.folder import read_mine
from yellow_hinge.app.mine.kinds import KINDS
from yellow_hinge.app.mine.listing import every_row
from yellow_hinge.app.mine.using import use
from yellow_hinge.app.practice.notes_in import NoteEvent
from yellow_hinge.app.practice.passes import PieceRun, Round, Stretch, melody_in
from yellow_hinge.app.solving.book.sets import SetSong, SongSet, evening, joins, total
from yellow_hinge.app.solving.book.songbook import songbook
from yellow_hinge.assets import ASSETS
from yellow_hinge.core.chart.text import parse_chart
from yellow_hinge.core.leading.answer import Solution
from yellow_hinge.core.leading.asking.manners import manners
from yellow_hinge.core.leading.asking.setup import Setup, chosen_manner
from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.explain import reason
from yellow_hinge.core.leading.lines import bass_line, stiff
from yellow_hinge.core.leading.prices.weights import STYLES
from yellow_hinge.core.leading.solution import solve_song
from yellow_hinge.core.lines.grid import STEPS
from yellow_hinge.core.lines.lines import lines
from yellow_hinge.core.lines.onsets import Asked
from yellow_hinge.core.lines.rails import RAILS
from yellow_hinge.core.lines.text import pieces, written
from yellow_hinge.core.onstage.lines import shown_song
from yellow_hinge.core.onstage.turning import Run
from yellow_hinge.core.own.lines import line_fits
from yellow_hinge.core.performing import Performance, performed
from yellow_hinge.core.practice.partner import Feel, in_time
from yellow_hinge.core.practice.pass_words import pass_words
from yellow_hinge.core.reharm.shelf_fits import fits
from yellow_hinge.core.rhythm.asked import Fill, Playing
from yellow_hinge.core.rhythm.asks import with_fill, with_lines, with_pattern
from yellow_hinge.core.rhythm.band import clicks, drums
from yellow_hinge.core.rhythm.fills.degree_line import MIDDLE
from yellow_hinge.core.rhythm.fills.kinds import fill_kinds
from yellow_hinge.core.rhythm.fills.offered import offers
from yellow_hinge.core.rhythm.pattern.feels import FEELS, density
from yellow_hinge.core.rhythm.pattern.patterns import patterns
from yellow_hinge.core.sheet.as_struck import swing_said
from yellow_hinge.core.sheet.content import Writer
from yellow_hinge.core.song.song import Song
from yellow_hinge.core.song.timeline import timeline
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.musicxml.writing import Notation, musicxml_bytes
from yellow_hinge.io.songs.demo import demo_file, demo_song

SHORT = "key: Bb\ntempo: 96\n| Bbmaj7 | G7b9 / Cm7 / | F13 | Bb6 D7 |\ntune: | D5:4 | B4:2 C5:2 | A4:4 | Bb4:2 A4:2 |\n"


def _solved(chart: str, manner: str = "", **asked: object) -> tuple[Song, Solution]:
    song = parse_chart(chart)
    setup = chosen_manner(Setup(**asked), manner) if manner else Setup(**asked)  # type: ignore[arg-type]
    return song, solve_song(Builder(), timeline(song), setup)


def _struck(found: Performance) -> str:
    """How many of each part are struck, and a sum over when, what and how loudly."""
    parts = [
        f"{part}{sum(s.part == part for s in found.struck)}"
        for part in ("left", "right", "bass", "tune", "line", "drums")
    ]
    rows = [(s.onset, s.end, s.midi, s.part, s.velocity, s.added) for s in found.struck]
    return f"{' '.join(parts)} {crc32(repr((rows, found.pedals, found.bars)).encode()):08x}"


def in_patterns(name: str) -> str:
    """Every pattern over a chart, as it is struck and as it is written; drums and clicks of its meter."""
    song, solution = _solved(CHARTS[name], colour=1)
    rows = []
    for pattern in patterns().values():
        rows.append(f"{pattern.id}: {density(pattern):.3f} {[feel for feel, suits in FEELS.items() if suits(pattern)]}")
        playing = with_pattern(Playing(), 0, "both", pattern.id)
        rows.append(
            f"{pattern.id}: {_struck(performed(solution, song, playing))} {swing_said(solution, song, playing)}"
        )
        score = musicxml_bytes(song, solution, (), Notation(struck=True, pedal=True), playing).replace(
            MADE_BY.encode(), b""
        )
        rows.append(f"  score {score.count(b'<note')} notes {crc32(score):08x}")
    meter = solution.moments[0].meter
    rows += [str(drums(meter, 1920, swing)) for swing in (50, 58, 66)] + [
        str(clicks(meter, 1920, first)) for first in (0, 480)
    ]
    return "\n".join(rows) + "\n"


def with_all_fills(manner: str) -> str:
    """What is offered as lead-ins and fills at every chord, and each of them struck."""
    song, solution = _solved(CHARTS["three"], manner)
    row = performed(solution, song).row
    rows = [f"{place}: {offer}" for place in range(len(row)) for offer in offers(row, place, Playing(), manner)[:4]]
    for kind in fill_kinds():
        for quarters in (0, 3):
            playing = with_fill(Playing(), Fill(row[3].moment.slot_id, kind, quarters), True)
            rows.append(f"{kind} {quarters}: {_struck(performed(solution, song, playing))}")
    return "\n".join(rows) + "\n"


def in_styles(manner: str) -> str:
    """Every style: what it promises, why each chord is played so, its bass line and its hard changes."""
    rows = []
    for style in STYLES:
        _, solution = _solved(SHORT, manner, style=style)
        totals = solution.totals
        rows += [f"== {style}: {totals.motion} {totals.cost} {totals.kept}", solution.style_words()]
        rows += [
            f"{v.both.left} {v.both.right} {v.family} {v.warnings}: {reason(solution, n)}"
            for n, v in enumerate(solution.voicings)
        ]
        rows += [
            str([(move.kind, [p.name for p in move.passing]) for move in bass_line(solution)]),
            str([h.why for h in stiff(solution)]),
        ]
    return "\n".join(rows) + "\n"


def along_rails(name: str) -> str:
    """Lines along every rail in every density, kept, and what of the shelf fits."""
    song, solution = _solved(CHARTS[name])
    moments = [voicing.here for voicing in solution.voicings]
    tops, rows = [voicing.left[-1] if voicing.left else 0 for voicing in solution.voicings], []
    for rail in RAILS:
        for bold, dense in enumerate(STEPS):
            for line in lines(moments, tops, Asked(rail, dense, bold % 3)):
                rows += [
                    f"{rail} {dense} {line.cost}: {written(line, moments, MIDDLE)}",
                    " ".join(note.why for note in line.notes),
                ]
                rows.append(_struck(performed(solution, song, with_lines(Playing(), pieces(line, moments)))))
    return "\n".join(rows) + "\n"


PLAYERS = (
    Feel(), Feel(late=0.08), Feel(late=-0.05), Feel(drags=0.24), Feel(drags=-0.2), Feel(holds=0.6), Feel(holds=-0.6),
)  # fmt: skip


def in_time_played(name: str) -> str:
    """Passes through a song by players who are late, rush and hold on, with hands apart and with the tune."""
    file, _ = demo_file(name)
    solution = solve_song(Builder(), timeline(file.song), file.setup)
    performance, rows = performed(solution, file.song, file.playing), []
    for feel in PLAYERS:
        for hands, tune in (("both", False), ("right", False), ("left", True)):
            stretch = Stretch(0, performance.ends[5], hands, tune)
            told: list[object] = []
            run, now, chance = PieceRun([Round(performance, stretch)], 80, True, told.append), 10.0, Random(3)
            run.begin(now)
            for _ in range(2):
                for touch in in_time(run.wanted, feel, chance):
                    run.heard(NoteEvent(touch.kind, touch.midi, 80, now + touch.at))
                now += run.length
                run.look(now + 0.4)
            rows.append(f"== {feel} {hands} {melody_in(performance, stretch)} {run.percent} {run.length:.4f}")
            rows += [f"{found.share:.4f} {found.missing[:3]} {pass_words(found)}" for found in run.passes]
    return "\n".join(rows) + "\n"


def on_stage(name: str) -> str:
    """A song's lines on stage by twos, fours and eights, and what a run through them shows."""
    song = demo_song(name)
    writer, rows = Writer(song, solve_song(Builder(), timeline(song), Setup())), []
    for bars in (2, 4, 8):
        shown = shown_song(writer, bars)
        rows += [
            f"{line.section} {line.time} {line.seconds:.3f} {[[c.symbol for c in bar.cells] for bar in line.bars]}"
            for line in shown.lines
        ]
        run = Run(shown.lines, 0).once_more()
        for step in ("line", "letter", "more", "back"):
            rows.append(
                f"{step} {run.at} {run.on_screen()} {run.spot(7.5)} {[round(start, 3) for start in run.starts()][:6]}"
            )
            run = {
                "line": run.turned(1) or run,
                "letter": run.to_letter("c"),
                "more": run.once_more(),
                "back": run.turned(-1) or run,
            }[step]
    return "\n".join(rows) + "\n"


def in_the_book(_: str) -> str:
    """The songs that ship as a songbook, found by words, and an evening of four."""
    folder, rows = ASSETS / "demo", []
    for find in ("", "jazz", "minor", "ferry", "C major"):
        rows += [
            f"{find}: {row.title} {row.key} {row.tempo} {row.minutes:.2f} {row.manner} {row.tags} {row.problem}"
            for row in songbook([folder], find)
        ]
    songs = tuple(
        SetSong("", f"{name}.hinge", key, take, "")
        for name, key, take in (
            ("kettle-on-the-stove", "Eb", ""),
            ("last-boat-to-marrow", "", "mix"),
            ("slack-tide", "C", ""),
            ("kettle-on-the-stove", "", "With a line"),
        )
    )
    row = evening(SongSet("Tonight", songs), folder)
    rows += [f"{own.song.path} {own.problem} {own.solution.totals if own.solution else ''}" for own in row]
    rows += [str(join) for join in joins(row)] + [f"{total(row):.3f}"]
    return "\n".join(rows) + "\n"


def of_ones_own(_: str) -> str:
    """An example of every kind of the player's own data: listed, solved with, and found where it fits."""
    rows = []
    with TemporaryDirectory() as name:
        for kind in KINDS:
            (Path(name) / kind.folder).mkdir()
            (Path(name) / kind.folder / "a.toml").write_text(kind.example, "utf-8")
        mine = read_mine(Path(name))
        use(mine)
        try:
            rows += [f"{row.kind} {row.id}: {row.name}" for row in every_row(mine) if row.mine]
            _, solution = _solved("key: C\n| Dm7 G7 | Cmaj7 | F | Dm7 G7 | C6 |\n")
            moments = [voicing.here for voicing in solution.voicings]
            rows += [str(fit) for at in range(len(moments)) for fit in fits(mine.of("shelf"), solution, at)]
            rows += [
                f"{fit.first} {[note.midi for note in fit.line.notes]}"
                for fit in line_fits(mine.of("line"), moments, [60] * 7)
            ]
            for own in manners().own:
                rows.append(f"{own}: {[(v.left, v.right) for v in _solved(SHORT, own)[1].voicings]}")
            for style in STYLES.own:
                rows.append(f"{style}: {_solved(SHORT, style=style)[1].totals}")
        finally:
            use(read_mine(Path("nowhere")))
    return "\n".join(rows) + "\n"


ROOMS = {
    "all-patterns": in_patterns, "all-fills": with_all_fills, "all-styles": in_styles, "all-rails": along_rails, "all-timed": in_time_played,
    "all-stage": on_stage, "all-book": in_the_book, "all-own": of_ones_own,
}  # fmt: skip
