"""What the front door's own words show is so."""

import doctest

from thistlequartz import core


def test_the_example_of_the_front_door_is_so() -> None:
    tried = doctest.testmod(core)
    assert tried.attempted > 5
    assert tried.failed == 0
