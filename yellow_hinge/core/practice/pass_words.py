"""A judged pass in words."""

from __future__ import annotations

from yellow_hinge.core.leading.prices.hinge import HANDS
from yellow_hinge.core.practice.timing import ON_TIME, JudgedStroke, Pass, drift


def _ms(seconds: float) -> str:
    return f"{round(abs(seconds) * 1000)} ms"


def _count(some: int, of: int) -> str:
    return "every stroke" if some == of else f"{some} of {of} strokes"


def _early_and_late(off: list[JudgedStroke]) -> str:
    late = sum(each.late > ON_TIME for each in off if each.late is not None)
    return " and ".join(f"{n} {word}" for n, word in ((len(off) - late, "early"), (late, "late")) if n)


def _times(strokes: tuple[JudgedStroke, ...]) -> str:
    """How a hand lies against the beat, in words; "" where it is in time."""
    struck = [each for each in strokes if each.late is not None]
    found = drift(struck)
    off = [each for each in struck if not each.right]
    if not off:
        return ""
    if not found.steady:
        return f"{'drags' if found.grows > 0 else 'rushes'}, by {_ms(found.grows)} from beginning to end"
    if abs(found.late) > ON_TIME:
        return f"is {'late' if found.late > 0 else 'early'}, by {_ms(found.late)} on average"
    return f"is uneven: {_early_and_late(off)} of {len(struck)}"


def hand_words(hand: str, found: Pass) -> str:
    """What a hand did otherwise than written, in a sentence, or that it was in time; "" where it plays nothing."""
    own = found.of(hand)
    if not own.strokes:
        return ""
    said, count = [], len(own.strokes)
    if own.missing:
        said.append(f"leaves out {_count(len(own.missing), count)}")
    said += filter(None, (_times(own.strokes),))
    long, short = sum(each.over > 0 for each in own.strokes), sum(each.over < 0 for each in own.strokes)
    said += [f"holds {_count(long, count)} too long"] if long else []
    said += [f"lets go of {_count(short, count)} too soon"] if short else []
    return f"The {hand} hand {'; '.join(said)}." if said else f"The {hand} hand is in time."


def pass_words(found: Pass) -> list[str]:
    """What came of a pass, hand by hand, and the keys that are not in it."""
    said = [words for hand in HANDS if (words := hand_words(hand, found))]
    extra = len(found.extra)
    if extra:
        said.append(
            "1 key is struck that is not in it." if extra == 1 else f"{extra} keys are struck that are not in it."
        )
    return said
