"""What the program says of the demo songs, kept as text in `said/`: whoever changes a price, a pattern or a page sees
here what becomes of the hands. `make said` writes all of it anew; read the difference before it is committed.

Large files are kept as sums, a line a piece: what they hold shows in the texts beside them.
"""

from __future__ import annotations

import io
import json
import re
import sys
from collections import Counter
from collections.abc import Iterator
from contextlib import chdir, redirect_stderr, redirect_stdout
from pathlib import Path
from tempfile import TemporaryDirectory
from zlib import crc32

import mido

from tests.cli.answers import KEPT, answers
from tests.cli.walked import WALKS
from tests.cli.walked_rooms import ROOMS
from tests.performances import as_midi, perform
from yellow_hinge.cli.main import main
from yellow_hinge.core.chart.writing import write_chart
from yellow_hinge.core.errors import UserError
from yellow_hinge.io.opening import read_data

HERE = Path(__file__).parent
FOLDER, CORPUS, CHARTS, FAULTY = HERE / "said", HERE.parent / "io" / "corpus", HERE / "charts", HERE / "faulty.txt"
BOAT, ROPE, BELL = "demo:last-boat-to-marrow", "demo:cork-and-rope", "demo:harbour-bell"
KETTLE, LANTERN, TIDE = "demo:kettle-on-the-stove", "demo:paper-lantern-waltz", "demo:slack-tide"

# A row: the name of the text, then the words. OUT.ending is a file that is written, and is what is kept; "heard" is what
# is heard of a chart that the simulated player plays in a pattern, "read" what is read
# of every so many of the files of a folder.
RUNS = """
hands-hymn            voice BELL --manner hymn
hands-pop             voice BOAT --manner pop --colour 1
hands-blues           voice TIDE-bolder --manner rhythm-and-blues --fullness 2,4 --ahead on
hands-gospel          voice BELL-bolder --manner gospel --wants on --vary
hands-rootless        voice KETTLE --manner jazz-with-bass --colour 3 --loop
hands-alone           voice LANTERN-bolder --manner jazz-alone --right plays
hands-ballad          voice ROPE-bolder --manner solo-ballad --key Bb
hands-modal           voice TIDE --manner modal --style slide-along-the-key
hands-free            voice KETTLE-bolder --families free --melody free --left-notes 3 --right-notes 3
hands-small           voice ROPE --left-reach 8 --right-reach 8 --keys 61 --families pop-hands,close-hands
hands-rolled          voice BELL --manner gospel --roll --singer C3:A4 --bass theirs
hands-tops            voice BOAT --style singing-top --families spread-two,frame-159,tenth-bass,upper-triad
hands-rising          voice LANTERN --style rising-line --families drop2,drop24,number-over,left-alone
hands-thumb           voice TIDE --style thumb-line --families octave-frame,two-notes,open-left,fill-double
hands-bass            voice LANTERN --style falling-bass --families turned-bass,bass-close,octave-triad
hands-lean            voice KETTLE --style lean-on-the-shape --families fourths,stacked-minor,rootless-a,rootless-b
hands-outward         voice BELL --style outward --families left-inverted,add-second,triad-over-bass
hands-same            voice ROPE --style same-size --boldness 2
bolder-four           voice BELL --boldness 4
bolder-three          voice KETTLE --boldness 3 --protect none
why-tide              voice TIDE --explain --wish "Bridge:1 lift=5 colour=3"
why-lantern           voice LANTERN --explain --left-reach 7
swaps-boat            swaps BOAT --at Verse:3
swaps-bell            swaps BELL --at Hymn:2 --manner gospel
swaps-kettle          swaps KETTLE --at Blues:4 --colour 3
swaps-tide            swaps TIDE --at Bridge:1 --key D
solo-tide             solo TIDE --rail 3-7 --density eighths --bold 1 --at Vamp
solo-kettle           solo KETTLE --rail 9 --density triplets --bold 2 --low G4 --high C6
solo-boat             solo BOAT --rail tune --density quarters --at Chorus
keys-tide             keys TIDE --at Bridge:2 --to Bridge:4
drill-kettle          drill KETTLE --at Blues:1 --to Blues:3 --round fourths --down
shelf-boat            shelf --fits BOAT --at Verse:2
ring                  ring "A3 C4 E4"
over                  over "L C3 G3 Bb3"
shapes-seventh        shapes C7alt
shapes-minor          shapes F#m11
chords                chord Cmaj7#11 Bb7b9/D F#m(maj7) Gsus4 Db6/9 E7#5#9 Am7b5 C/E --key C
names                 name B3 E4 G#4 C#5 --key E
struck-boat           export BOAT --to OUT.mid
struck-rope           export ROPE --to OUT.mid --pattern six-eight-rocking
struck-bell           export BELL --to OUT.mid --pattern triplets --ahead on
struck-kettle         export KETTLE --to OUT.mid --pattern shells-tune --swing 62 --click
struck-lantern        export LANTERN --to OUT.mid --pattern swung-waltz
struck-tide           export TIDE --to OUT.mid --pattern slow-sixteenths
struck-walking        export KETTLE-bolder --to OUT.mid --pattern walking
struck-stride         export BOAT-bolder --to OUT.mid --pattern stride --wants on
struck-opening        export LANTERN-bolder --to OUT.mid --pattern three-opening
struck-tune           export ROPE-bolder --to OUT.mid --pattern tune-on-top
struck-suspension     export BELL-bolder --to OUT.mid --pattern suspension
text-boat             export BOAT --to OUT.txt
chart-tide            export TIDE --to OUT.chart
chordpro-bell         export BELL --to OUT.cho
table-lantern         export LANTERN --to OUT.csv
score-boat            export BOAT --to OUT.musicxml
score-kettle          export KETTLE --to OUT.musicxml --as held
score-rope            export ROPE --to OUT.musicxml --in-key Ab --pattern broken-up-down
sheet-boat            export BOAT --to OUT.svg
sheet-bell            export BELL --to OUT.svg --size l --landscape --show keyboards,degrees,fingers,numbers,cues,tune
sheet-kettle          export KETTLE --to OUT.svg --size s --paper letter --show rhythm,pedal,line,holds,notes
sheet-dark            export TIDE --to OUT.svg --sheet line --size stage --paper tablet
sheet-staves          export LANTERN --to OUT.svg --sheet staves
sheet-columns         export ROPE --to OUT.svg --columns 3 --in-key C#m --sounds-in Am
heard-dominants       heard dominants bass-chord
heard-hymn            heard hymn held --click 80
heard-twos            heard twos charleston --bass theirs
heard-waltz           heard waltz waltz --key D
heard-lantern         heard paper-lantern-waltz swung-waltz --song LANTERN --json
heard-tide            heard slack-tide comping --meter 4/4 --json
faults                faults
asked-eb              voice four.chart --bass theirs --families rootless-a,rootless-b --key Eb --loop --left-reach 10 --keys 61 --colour 3
asked-parts           voice scrap.chart --wish "Verse:2:3 families=octave-triad+shell-root" --wish "Big End colour=1" --hold "E4 Verse:1:1 Big End:1:1" --style still-top --json
asked-fullness        voice parts.chart --colour 2 --fullness 1,4 --wish "B fullness=2+3"
asked-right           voice parts.chart --colour 2 --bass theirs --right free --wish "B right=plays"
asked-headers         voice asking.chart --json
asked-strange         check strange.chart --json
asked-keeps           voice verse.chart --keep "Big Verse:2 L F2 C3 R A3 C4 F4" --keep "Big Verse:4 R E4 G4 C5" --key D
asked-rests           voice verse.chart --keep "Big Verse:3 L G2 F3 B3 R"
asked-top             voice BOAT --melody top --singer E4:B4
asked-explained       voice scrap.chart --explain --families open-left --left-reach 8 --json
asked-protected       voice four.chart --boldness 3 --json
asked-free            voice four.chart --boldness 3 --protect none
asked-bolder          export KETTLE --boldness 3 --to OUT.cho
asked-swaps           swaps BOAT --at Verse:8:1 --json
asked-untested        swaps scrap.chart --at "Big End:1:1"
asked-walking         voice scrap.chart --pattern walking --json
asked-solo            solo TIDE --rail 7-3 --bold 1 --at Vamp:2 --json
asked-solo-tune       solo TIDE --at Vamp --low C5 --to OUT.mid
asked-keys            keys scrap.chart --at Verse:2 --to "Big End:1" --json
asked-drill           drill Dm7 G7 --key C --round whole --json
asked-sheet           export verse.chart --to OUT.svg --in-key Eb --sounds-in F
list-chords           chord Db7b9/Ab Bb/C --key Gb --json
list-names            name F3 A3 B3 E4 --bass G --key C --json
list-numbers          name 53 57 60 64 --bass D2
list-songs            songs --json
list-styles           styles --json
list-families         families --json
list-manners          manners --json
list-patterns         patterns --json
list-hands            shapes Gm9 --left "G2, F3" --right "Bb3 D4 A4" --json
list-right            shapes Gm9 --right "Bb3 D4 A4"
list-colours          shapes C --left C3 --right "E4 G4 A4 D5"
list-other            shapes C/G --left G2 --right "C4 E4 A4"
list-wide             shapes C --left "C2 E3"
list-five             shapes C --left "C2 D2 E2 F2 G2"
list-below            shapes C --left A0
list-ring             ring "C#4 E4 A4" --key A --json
list-over             over "L C3 G3" --key C --json
desk-boat             desk last-boat-to-marrow
desk-bell             desk harbour-bell
takes-rope            takes cork-and-rope
takes-tide            takes slack-tide
practice-kettle       practice kettle-on-the-stove
practice-lantern      practice paper-lantern-waltz
patterns-qualities    all-patterns qualities
patterns-three        all-patterns three
patterns-six          all-patterns six
patterns-five         all-patterns five
fills-gospel          all-fills gospel
fills-alone           all-fills jazz-alone
styles-alone          all-styles jazz-alone
styles-hymn           all-styles hymn
styles-pop            all-styles pop
rails-qualities       all-rails qualities
rails-three           all-rails three
timed-lantern         all-timed paper-lantern-waltz
timed-boat            all-timed last-boat-to-marrow
stage-boat            all-stage last-boat-to-marrow
stage-tide            all-stage slack-tide
book                  all-book demo
own-data              all-own examples
read-charts           read charts 1
read-chordpro         read chordpro 1
read-midi             read midi 5
read-pasted           read pasted 1
read-scores           read scores 6
"""
RUN = re.compile(r'"[^"]*"|\S+')


def runs() -> Iterator[tuple[str, tuple[str, ...]]]:
    """Every run: its name and its words."""
    for row in RUNS.strip().splitlines():
        name, *words = (word.strip('"') for word in RUN.findall(row))
        for short in ("BOAT", "ROPE", "BELL", "KETTLE", "LANTERN", "TIDE"):
            words = [re.sub(rf"^{short}(?=$|-bolder)", globals()[short], word) for word in words]
        yield name, tuple(words)


def said(words: tuple[str, ...]) -> str:
    """What a run says and writes, as text."""
    if words[0] == "read":
        files = sorted(path for path in (CORPUS / words[1]).rglob("*") if path.is_file())
        return "".join(map(_read, files[:: int(words[2])]))
    if words[0] in WALKS:
        return WALKS[words[0]](words[1])
    if words[0] in ROOMS:
        return ROOMS[words[0]](words[1])
    if words[0] == "faults":
        return "".join(map(_refused, FAULTY.read_text("utf-8").splitlines()))
    with (
        TemporaryDirectory() as folder, chdir(CHARTS), redirect_stdout(io.StringIO()) as out,
        redirect_stderr(io.StringIO()),
    ):  # fmt: skip
        if words[0] == "heard":
            path = Path(folder) / "played.mid"
            path.write_bytes(as_midi(perform(words[1], words[2]).tones))
            words = ("hear", str(path), *words[3:])
        status = main([word.replace("OUT", f"{folder}/out") for word in words])
        files = sorted(path for path in Path(folder).iterdir() if path.name != "played.mid")
        return (_compact(out.getvalue()) if not status else f"status {status}\n") + "".join(map(_as_text, files))


def _compact(out: str) -> str:
    """A document with a row for every entry of its lists; how long it took is not said."""
    if not out.startswith("{"):
        return out
    document, rows = json.loads(out), list[str]()
    document.get("total", {}).pop("seconds", None)
    for name, value in document.items():
        entries = value if isinstance(value, list) else [value]
        rows += [f"{name}: {json.dumps(entry, ensure_ascii=False, separators=(',', ':'))}" for entry in entries]
    return "\n".join(rows) + "\n"


def _refused(row: str) -> str:
    """What is said to words at fault."""
    words = [word.strip('"') for word in RUN.findall(row)]
    with TemporaryDirectory() as folder, chdir(folder), redirect_stdout(io.StringIO()) as out:
        for path in CHARTS.iterdir():
            Path(folder, path.name).write_bytes(path.read_bytes())
        with redirect_stderr(io.StringIO()) as err:
            status = main(words)
        made = sorted(path.name for path in Path(folder).iterdir() if not (CHARTS / path.name).exists())
    return f"{row}\n{status} {out.getvalue()}{err.getvalue()}{' '.join(made)}\n"


def _read(path: Path) -> str:
    """A file as the song that is read of it, with what is said."""
    try:
        opened = read_data(path.read_bytes(), path.name)
    except UserError as error:
        return f"== {path.name}: {error}\n"
    rows = "".join(f"- {words}\n" for words in opened.report)
    return f"== {path.name}\n{rows}{opened.text or write_chart(opened.file.song)}\n"


def _as_text(path: Path) -> str:
    if path.suffix == ".mid":
        return "".join(_events(path))
    text = re.sub(r"(?s)<style>.*</style>", "", path.read_text("utf-8"))  # letters carry the hour they were cut at
    if path.suffix == ".svg":
        return f"{path.name}: {_sums(re.split('(?=<[a-z])', _rounded(text)))}\n"
    if path.suffix == ".musicxml":
        return "".join(f"{_sums(bar.splitlines())}\n" for bar in text.split("</measure>"))
    return text


def _events(path: Path) -> Iterator[str]:
    """A line a track's quarter note: what begins and ends in it."""
    file = mido.MidiFile(path)
    for number, track in enumerate(file.tracks):
        now, row = 0, dict[int, list[str]]()
        for event in track:
            now += event.time
            words = f"{event.note}.{event.velocity}" if event.type.startswith("note") else str(event.dict())
            at = now % file.ticks_per_beat
            row.setdefault(now // file.ticks_per_beat, []).append(f"{event.type[5:7]}{at}:{words}")
        yield from (f"{number} {beat}: {' '.join(words)}\n" for beat, words in row.items())


def _rounded(text: str) -> str:
    return re.sub(r"-?\d+\.\d+", lambda found: f"{float(found[0]):.1f}", text)


def _sums(pieces: list[str]) -> str:
    """How many pieces of each kind, and a sum over them."""
    kinds = Counter(found[1] for piece in pieces if (found := re.match(r"\s*<([a-z-]+)", piece)))
    return f"{dict(sorted(kinds.items()))} {crc32(chr(10).join(pieces).encode()):08x}"


if __name__ == "__main__":
    FOLDER.mkdir(exist_ok=True)
    for name, words in runs():
        (FOLDER / f"{name}.txt").write_text(said(words), "utf-8")
        print(name, file=sys.stderr)
    KEPT.write_text(answers(), "utf-8")
