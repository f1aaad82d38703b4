"""Seeded damage to bytes: what a broken disk, a careless editor or a hostile sender would make of a file."""

import random

HOSTILE = (
    b"|", b" / ", b"]", b"[", b"[" * 300, b"\\", b"{", b"}", b"\n", b"\r", b"\x00", b"\xff", b"\xfe\xff", b"\xc2\x85",
    b"\xe2\x80\xa8", b"\xed\xa0\x80", b"\xf0\x9f\x8e\xb9", b"99999999999999999999", b"-1", b"1e999", b"0", b"1/0", b"%",
    b":|", b"|:", b"|1.", b"(0/4)", b"x99", b" " * 400, b"\t", b"<", b">", b"&#0;", b"null", b"true", b'"', b":", b"~",
    b"C7/6", b"over", b"N.C.", b"#" * 40, b"/", b"key: H", b"meter: 99/1", b"tempo: 9", b"\x00\x00\x00\x00", b"\x7f\xff\xff\xff",
)  # fmt: skip


def damaged(data: bytes, chance: random.Random) -> bytes:
    """The bytes with one to six wounds."""
    wound = bytearray(data)
    for _ in range(chance.choice((1, 1, 1, 2, 3, 6))):
        at = chance.randrange(len(wound) + 1)
        kind = chance.randrange(7)
        if kind == 0 and wound:
            wound[at % len(wound)] = chance.randrange(256)
        elif kind == 1 and wound:
            wound[at % len(wound)] ^= 1 << chance.randrange(8)
        elif kind == 2:
            wound[at:at] = chance.choice(HOSTILE)
        elif kind == 3:
            del wound[at : at + chance.choice((1, 2, 8, 40))]
        elif kind == 4:
            end = at + chance.choice((2, 10, 60))
            wound[at:at] = bytes(wound[at:end]) * chance.choice((1, 2, 9))
        elif kind == 5:
            wound[at : at + chance.choice((1, 4))] = chance.choice(HOSTILE)
        else:
            del wound[at:]
    return bytes(wound)


WORDS = ("", "|", "a | b", " / ", "/ x", "x /", "]", "a]b[", "\\", "\\|", "x2 y", "1.", ":|", "\n", "a\nb", "\t", "\u2028", "\x85",
         "\u00a0", "\ufdd0", "\U0001f3b9", "=", "a=b", "%", "key: C", "C7/6", "N.C.", "é" * 300, "-" * 5000, "C major", "Hb", "r:0")  # fmt: skip
NUMBERS = (0, -1, 1, 2, 3, 5, 128, 200, 300, 9999, 2**31, 2**63, 10**30, -(10**30), 0.5, 1e308, "1/3", "1/0", "1e9",
    "7/2")  # fmt: skip


def changed_fields(data: bytes, chance: random.Random) -> bytes:
    """JSON with one to three of its values exchanged for others, dropped, or doubled."""
    import json

    whole = json.loads(data)
    for _ in range(chance.choice((1, 1, 2, 3))):
        holder = whole
        for _ in range(chance.randrange(1, 9)):
            inner = list(holder.values() if isinstance(holder, dict) else holder)
            inner = [value for value in inner if isinstance(value, dict | list) and value]
            if not inner or chance.random() < 0.12:
                break
            holder = chance.choice(inner)
        place = chance.choice(list(holder) if isinstance(holder, dict) else range(len(holder)))
        kind = chance.randrange(8)
        if kind == 0:
            del holder[place]
        elif kind == 1 and isinstance(holder, list):
            holder += holder[:] * chance.choice((1, 8))
        elif kind in (2, 3):
            holder[place] = chance.choice(NUMBERS)
        elif kind == 4:
            holder[place] = chance.choice(([], {}, None, True, [0], [[]], {"a": 1}))
        else:
            holder[place] = chance.choice(WORDS)
    return json.dumps(whole).encode("utf-8", "surrogatepass")


_TEXTS = ("", "0", "-1", "1", "3", "99", "99999999999", "1e9", "nan", "7/0", "x", "C", "H", "start", "stop", "none", "other", "1, 2", "9-1", "é" * 200)  # fmt: skip


def changed_elements(data: bytes, chance: random.Random) -> bytes:
    """XML with one to six of its elements emptied, dropped, doubled, moved, or given other words."""
    from xml.etree import ElementTree

    root = ElementTree.fromstring(data)
    for _ in range(chance.choice((1, 2, 3, 6))):
        parents = [each for each in root.iter() if len(each)]
        parent = chance.choice(parents)
        child = chance.choice(list(parent))
        kind = chance.randrange(6)
        if kind == 0:
            parent.remove(child)
        elif kind == 1:
            parent.extend([child] * chance.choice((1, 9)))
        elif kind == 2:
            chance.choice([each for each in parents if each not in set(child.iter())]).append(child)
        elif kind == 3 and child.attrib:
            child.set(chance.choice(list(child.attrib)), chance.choice(_TEXTS))
        else:
            child.text = chance.choice(_TEXTS)
    try:
        return ElementTree.tostring(root, "utf-8")
    except RecursionError:  # an element inside itself
        return data


def changed_messages(data: bytes, chance: random.Random) -> bytes:
    """MIDI with one to six of its messages dropped, doubled, moved, or with another time or value."""
    import io

    import mido

    file = mido.MidiFile(file=io.BytesIO(data))
    for _ in range(chance.choice((1, 2, 3, 6))):
        track = chance.choice([track for track in file.tracks if track])
        at = chance.randrange(len(track))
        kind = chance.randrange(5)
        if kind == 0:
            del track[at]
        elif kind == 1:
            track.insert(chance.randrange(len(track)), track[at])
        elif kind == 2:
            chance.choice(file.tracks).append(track[at])
        elif kind == 3:
            track[at] = track[at].copy(time=chance.choice((0, 1, 7, 479, 481, 5000, 1_000_000)))
        elif track[at].type == "note_on":
            track[at] = track[at].copy(note=chance.randrange(128), velocity=chance.choice((0, 1, 127)))
    file.ticks_per_beat = chance.choice((1, 24, 96, 480, file.ticks_per_beat, 32767))
    stream = io.BytesIO()
    file.save(file=stream)
    return stream.getvalue()
