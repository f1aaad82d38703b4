"""Keys sound as they are pressed, and fall silent as they are let go."""

import time

import numpy as np

from yellow_hinge.sound.instruments import RATE, Instruments
from yellow_hinge.sound.live import LiveSource

BLOCK = RATE // 125  # 8 ms


def level(source, blocks=1):
    return float(np.abs(np.concatenate([source.pull(BLOCK) for _ in range(blocks)])).max())


def test_a_key_is_heard_in_the_very_next_block_and_fades_when_it_is_let_go():
    source = LiveSource(Instruments())
    source.instruments.note("right", 60, 80)
    assert level(source) == 0
    source.press(60, 80)
    assert level(source, 3) > 0.01
    source.lift(60)
    assert level(source, 60) > 0
    assert level(source) == 0


def test_the_pedal_holds_what_was_let_go():
    source = LiveSource(Instruments())
    source.press(60, 80)
    source.pedal(True, frozenset({60}))
    source.lift(60)
    level(source, 60)
    assert level(source) > 0.001
    source.pedal(False, frozenset())
    level(source, 60)
    assert level(source) == 0


def test_many_keys_do_not_clip_and_the_wait_is_measured():
    source = LiveSource(Instruments())
    for midi in range(36, 84, 2):
        source.instruments.note("right", midi, 127)
    for midi in range(36, 84, 2):
        source.press(midi, 127)
    assert level(source, 20) <= 1.0
    source.press(40, 60)
    time.sleep(0.005)
    source.pull(BLOCK)
    assert source.waits[-1] >= 0.005
    source.stop()
    assert level(source) == 0
