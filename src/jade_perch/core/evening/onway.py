"""What is said on the way through a step: rounds of a loop, parts put together."""

from collections.abc import Sequence
from typing import Annotated

from jade_perch.core.bench.loop import Try
from jade_perch.core.evening.setup import StepName
from jade_perch.core.fields import Item, Label, Loaded, UtcTime

REMEMBERED = 16  # marks of a step that are read back; more teach nothing


class StepMark(Item):
    """One thing said on the way: of which step, about what, and the round if it is a loop's.

    ``subject`` is a finder, a part, or what a level was read with; ``is_over`` where what followed
    has nothing to do with it: something was bumped, or the step was recorded.
    """

    evening_id: int
    telescope_id: int
    step: StepName
    subject: Label
    marked_at_utc: UtcTime
    round: Annotated[Try, Loaded]
    is_over: bool = False


def rounds_of(marks: Sequence[StepMark], evening_id: int | None) -> list[Try]:
    """Return the rounds of a loop, oldest first; a chain breaks between evenings.

    Source: rules.md#learning.
    """
    following = [*[one.evening_id for one in marks], evening_id][1:]
    return [
        one.round.model_copy(
            update={"is_broken": one.round.is_broken or one.is_over or after != one.evening_id}
        )
        for one, after in zip(marks, following, strict=True)
    ]


def since_over(rounds: Sequence[Try]) -> list[Try]:
    """Return the rounds after the last chain that is over: feet may be numbered anew then.

    Source: rules.md#learning.
    """
    broken = [n for n, one in enumerate(rounds) if one.is_broken]
    return list(rounds[broken[-1] + 1 :] if broken else rounds)


def parts_done(marks: Sequence[StepMark]) -> set[str]:
    """Return the parts that are ticked and not reopened.  Source: rules.md#assemble."""
    return {one.subject for one in marks if not one.is_over}
