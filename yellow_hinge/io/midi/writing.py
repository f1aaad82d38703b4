"""Writing MIDI files: a performance with each hand, the bass, the tune and the click on a track of its own."""

from __future__ import annotations

import contextlib
import io

import mido

from yellow_hinge.core.performing import Performance, Struck
from yellow_hinge.core.pitch.key import key_on
from yellow_hinge.core.rhythm.pattern.patterns import TICK
from yellow_hinge.core.song.song import NO_CHORD, Song
from yellow_hinge.core.song.timeline import Moment, timeline
from yellow_hinge.core.symbols.writing import as_typed
from yellow_hinge.io.files import MADE_BY
from yellow_hinge.io.midi.tracks import CHORD

# The tracks in order: (part, channel, General MIDI program; None: the drums' channel has none).
TRACKS = (("left", 0, 0), ("right", 1, 0), ("tune", 2, 73), ("line", 4, 0), ("bass", 3, 32), ("click", 9, None))
SUSTAIN = 64  # the pedal's controller


def midi_bytes(song: Song, performance: Performance, click: bool = False) -> bytes:
    """A type-1 MIDI file of a song's performance: tempo, meters, keys and a marker for every section, then a track for
    every part that sounds; the click only where it is asked for.
    """
    file = mido.MidiFile(type=1, ticks_per_beat=TICK, charset="utf-8")
    file.tracks.append(_head(song, performance))
    for part, channel, program in TRACKS:
        struck = [s for s in performance.struck if s.part == part]
        if struck and (part != "click" or click):
            pedals = performance.pedals if part in ("left", "right") else ()
            struck = [s._replace(midi=performance.sounding(s)) for s in struck]
            file.tracks.append(_track(part, channel, program, struck, pedals))
    stream = io.BytesIO()
    file.save(file=stream)
    return stream.getvalue()


def _head(song: Song, performance: Performance) -> mido.MidiTrack:
    """The song's name, and whatever holds from somewhere on: meter, tempo, key and section."""
    events: list[tuple[int, mido.MetaMessage]] = [
        (0, mido.MetaMessage("track_name", name=song.title)),
        (0, mido.MetaMessage("text", text=MADE_BY)),
    ]
    events += [(tick, mido.MetaMessage("set_tempo", tempo=micros)) for tick, micros in performance.clock.marks]
    events += _meters(performance)
    moments = timeline(song)
    events += _sections(song, moments, performance.shift)
    events += _words(moments, performance.shift)
    track, at = mido.MidiTrack(), 0
    for tick, message in sorted(events, key=lambda event: event[0]):
        track.append(message.copy(time=tick - at))
        at = tick
    return track


def _meters(performance: Performance) -> list[tuple[int, mido.MetaMessage]]:
    """Every change of meter; a pickup is a bar of its own length."""
    found, before = [], None
    for bar in performance.bars:
        meter = (bar.meter.upper, bar.meter.lower)
        if bar.missing:
            short = (bar.end - bar.start) * bar.meter.lower // (4 * TICK)
            meter = (short, bar.meter.lower) if short * 4 * TICK == (bar.end - bar.start) * bar.meter.lower else meter
        if meter != before:
            found.append((bar.start, mido.MetaMessage("time_signature", numerator=meter[0], denominator=meter[1])))
        before = meter
    return found


def _sections(song: Song, moments: tuple[Moment, ...], shift: int) -> list[tuple[int, mido.MetaMessage]]:
    """A marker where each section begins, and the key that is heard where it changes; one that has no signature has
    none.
    """
    found: list[tuple[int, mido.MetaMessage]] = []
    section, key = -1, None
    for moment in moments:
        tick = round(moment.quarter * TICK)
        if moment.key != key and moment.key.mode in ("major", "minor"):
            heard = key_on(moment.key.tonic.pc + shift, moment.key.mode) if shift else moment.key
            name = f"{heard.tonic}{'m' if heard.is_minor else ''}"
            with contextlib.suppress(ValueError):
                found.append((tick, mido.MetaMessage("key_signature", key=name)))
        if moment.section != section:
            found.append((tick, mido.MetaMessage("marker", text=song.sections[moment.section].name)))
        section, key = moment.section, moment.key
    return found


def _words(moments: tuple[Moment, ...], shift: int) -> list[tuple[int, mido.MetaMessage]]:
    """The cue words, and every chord in letters, unless the keyboard's transpose makes others of them."""
    found = []
    for moment in moments:
        tick = round(moment.quarter * TICK)
        if moment.cue:
            found.append((tick, mido.MetaMessage("lyrics", text=f"{moment.cue} ")))
        if not shift:
            symbol = NO_CHORD if moment.chord is None else as_typed(moment.symbol, moment.chord)
            found.append((tick, mido.MetaMessage("text", text=f"{CHORD}{symbol}")))
    return found


def _track(
    part: str, channel: int, program: int | None, struck: list[Struck], pedals: tuple[tuple[int, int], ...]
) -> mido.MidiTrack:
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=part))
    if program is not None:
        track.append(mido.Message("program_change", channel=channel, program=program))
    events: list[tuple[int, int, mido.Message]] = []
    for s in struck:
        on = mido.Message("note_on", channel=channel, note=s.midi, velocity=s.velocity)
        events += [(s.onset, 2, on), (s.end, 0, on.copy(velocity=0))]
    for down, up in pedals:  # up just before it goes down again with the next chord
        pedal = mido.Message("control_change", channel=channel, control=SUSTAIN, value=127)
        events += [(down, 3, pedal), (up, 1, pedal.copy(value=0))]
    at = 0
    for tick, _, message in sorted(events, key=lambda event: event[:2]):
        track.append(message.copy(time=tick - at))
        at = tick
    return track
