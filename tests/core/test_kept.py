"""What is kept of a thing goes with it."""

import gc
import weakref

from jade_perch.core.kept import kept_with


def test_what_is_kept_of_a_night_goes_with_it():
    """A night takes megabytes: what was worked out of it is found again, and holds nothing back."""

    class Night:
        """Stands for megabytes."""

    asked = []

    @kept_with(2)
    def doubled(night, number):
        asked.append(number)
        return 2 * number

    one, other = Night(), Night()
    assert [doubled(one, n) for n in (3, 3, 4)] == [6, 6, 8]
    assert doubled(other, 3) == 6 and asked == [3, 4, 3], "each night has its own"
    assert [doubled(one, n) for n in (5, 4, 3)] == [10, 8, 6] and asked == [3, 4, 3, 5, 3]
    gone = weakref.ref(one)
    del one
    gc.collect()
    assert gone() is None
