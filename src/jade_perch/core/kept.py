"""What was worked out of a thing is found again, for as long as the thing is there."""

from collections.abc import Callable
from functools import lru_cache, partial, wraps
from threading import Lock
from typing import Concatenate, ParamSpec, TypeVar
from weakref import ReferenceType, WeakKeyDictionary, ref

T = TypeVar("T")
R = TypeVar("R")
P = ParamSpec("P")


def kept_with(
    most: int,
) -> Callable[[Callable[Concatenate[T, P], R]], Callable[Concatenate[T, P], R]]:
    """Keep the ``most`` latest answers about a thing, the first argument, until the thing is gone.

    Things are told apart as objects, the other arguments by what they are.  An answer must not
    hold on to its thing.

    Source: our own choice: a night takes megabytes, and must not outlive who asks for it.
    """

    def _decorate(work: Callable[Concatenate[T, P], R]) -> Callable[Concatenate[T, P], R]:
        answers: WeakKeyDictionary[T, Callable[..., R]] = WeakKeyDictionary()
        turn = Lock()

        def _of(thing: ReferenceType[T], *args: P.args, **kwargs: P.kwargs) -> R:
            found = thing()
            assert found is not None, "who asks holds it"
            return work(found, *args, **kwargs)

        def _about(thing: T) -> Callable[P, R]:
            with turn:
                if thing not in answers:
                    answers[thing] = lru_cache(most)(partial(_of, ref(thing)))
                return answers[thing]

        @wraps(work)
        def _asked(thing: T, /, *args: P.args, **kwargs: P.kwargs) -> R:
            return _about(thing)(*args, **kwargs)

        return _asked

    return _decorate
