"""`yellow-hinge voice`: both hands for every chord of a song."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING, Any

from yellow_hinge.cli.answers.solving import solved
from yellow_hinge.cli.answers.struck import struck_fields
from yellow_hinge.cli.options import add_options
from yellow_hinge.cli.parser import Verbs, does, print_json
from yellow_hinge.core.leading.prices.hinge import hinge_figures, semitones
from yellow_hinge.io.documents.report import solution_fields

if TYPE_CHECKING:
    from yellow_hinge.core.leading.answer import Solution
    from yellow_hinge.core.reharm.whole import Bolder


def add_verbs(verbs: Verbs) -> None:
    """The verb, among the others."""
    voice = verbs.add_parser("voice", help="choose both hands for every chord of a song")
    add_options(voice)
    does(voice, _voice)


def _voice(args: argparse.Namespace) -> None:
    file, solution, seconds, found, takes, known = solved(args)
    fields = {"hands": "known" if known else "solved"} | solution_fields(file.song, solution, seconds)
    struck, fields["swing"] = struck_fields(solution, file.song, file.playing)
    for voicing, own, fields_ in zip(solution.voicings, struck, fields["voicings"], strict=True):
        fields_ |= own | {"take": takes[voicing.here.section if len(takes) > 1 else 0]}
    reasons = _reasons(solution) if args.explain and solution.voicings else {}
    changed = _changed(found) if found else {}
    if args.json:
        return print_json(fields | changed | reasons)
    print(f"{fields['title']}, {fields['key']}")
    for change in changed.get("changes", ()):
        new = "  ".join(chord["symbol"] for chord in change["chords"])
        print(f"{change['at']:<14} {change['was']:<10} becomes {new}: {change['reason']}; {change['words']}")
    if found is not None and not found.exact:
        print("Too many voicings to look at all of them: another mix of them may be a little easier.")
    for voicing, hinge in zip(fields["voicings"], [*fields["hinges"], None], strict=False):
        left, right = " ".join(voicing["left_notes"]) or "rests", " ".join(voicing["right_notes"]) or "rests"
        print(f"{voicing['symbol']:<10} {voicing['number']:<8} L {left:<18} R {right:<22}".rstrip())
        for warning in voicing["warnings"]:
            print(f"{'':>6}! {warning}")
        if hinge:
            print(f"{'':>6}{hinge_figures(hinge['held'], hinge['motion'])}. {hinge['words']}")
    if reasons:
        _print_reasons(reasons)
    total = fields["total"]
    print(f"In all {semitones(total['motion'])} (left {total['left_motion']}, right {total['right_motion']}), "
          f"{total['held']} notes held, largest move {total['largest_move']}.")  # fmt: skip
    if not total["exact"]:
        print(f"No hands cost less by more than {total['gap']:.1f} of {total['cost']:.1f} units.")


# --- what most songs are not asked for is loaded only where they are ---


def _reasons(solution: Solution) -> dict[str, Any]:
    from yellow_hinge.io.documents.explaining import explained

    return explained(solution)


def _print_reasons(reasons: dict[str, Any]) -> None:
    from yellow_hinge.io.documents.explaining import explained_text

    print("\n".join(explained_text(reasons)))


def _changed(found: Bolder) -> dict[str, Any]:
    from yellow_hinge.io.documents.reharmonised import bolder_fields

    return bolder_fields(found)
