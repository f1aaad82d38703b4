"""How well something is known: cards of a kept spaced-repetition library, with the clock passed in."""

from __future__ import annotations

import json
import zlib
from datetime import UTC, datetime, timedelta
from functools import lru_cache

from fsrs import Card, Rating, Scheduler

from yellow_hinge.core.errors import UserError
from yellow_hinge.core.practice.marking import Mark

_DAY = timedelta(days=1)
EASY_SECONDS, GOOD_SECONDS = 1.0, 2.5  # until a chord sounds, from when it was asked for
FEW = 2  # errors that are still better than none right
# Hands forget sooner than words do, and what is slow is not known yet: gaps in days are bounded.
FIRST_GAP, SLOW_GAP, GROWTH = 3.0, 7.0, 2.0


@lru_cache(maxsize=1)
def _scheduler() -> Scheduler:
    return Scheduler(learning_steps=(), relearning_steps=(), enable_fuzzing=False)


def rating(mark: Mark) -> Rating:
    """How well a chord was played: right and at once, right, right after a slip or slowly, or not yet."""
    if mark.errors == 0:
        quick = mark.seconds <= EASY_SECONDS
        return Rating.Easy if quick else Rating.Good if mark.seconds <= GOOD_SECONDS else Rating.Hard
    return Rating.Hard if mark.errors <= FEW and not mark.missing else Rating.Again


def graded_today(card: str, now: datetime) -> bool:
    """Whether an item was graded on the player's day of `now` (in the player's zone): only the first attempt of a day
    says what is remembered. Raises UserError for a damaged card.
    """
    last = read_card(card).last_review if card else None
    return last is not None and last.astimezone(now.tzinfo).date() == now.date()


def reviewed(card: str, item: str, mark: Mark, now: datetime) -> str:
    """The card of an item (as JSON, "" for a new one) after it was played at a time (with its zone): as it was, where
    it was graded on that day already, or was right before the day on which it is due.
    """
    at, grade = now.astimezone(UTC), rating(mark)
    old = read_card(card) if card else Card(card_id=zlib.crc32(item.encode()), due=at)
    early = bool(card) and now.date() < old.due.astimezone(now.tzinfo).date() and grade != Rating.Again
    if early or graded_today(card, now):
        return card
    new, _ = _scheduler().review_card(old, grade, at)
    gap = min((new.due - at) / _DAY, _longest(old, grade, at))
    new.due = at + gap * _DAY
    return str(new.to_json())


def _longest(old: Card, grade: Rating, at: datetime) -> float:
    """The longest gap, in days, that may follow: it grows from the time that passed."""
    longest = FIRST_GAP if old.last_review is None else max(1.0, GROWTH * ((at - old.last_review) / _DAY))
    return min(longest, {Rating.Again: 1.0, Rating.Hard: SLOW_GAP}.get(grade, longest))


def due(card: str) -> datetime:
    """When an item is to be played again. Raises UserError for a damaged card."""
    return read_card(card).due.astimezone(UTC)


def known(card: str, now: datetime) -> float:
    """How likely an item is still known, 0 to 1; 0 for one that was never played."""
    if not card:
        return 0.0
    return float(_scheduler().get_card_retrievability(read_card(card), now.astimezone(UTC)))


def read_card(card: str) -> Card:
    """A card from JSON. Raises UserError."""
    try:
        return Card.from_json(card)
    except (ValueError, KeyError, TypeError, json.JSONDecodeError) as error:
        raise UserError(f"a card of the practice log is damaged ({type(error).__name__})") from None
