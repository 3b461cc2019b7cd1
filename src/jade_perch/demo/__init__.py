"""The made-up demo scenario and its loader."""

CLOCK = "2027-02-13T17:10+01:00"  # the evening the scenario is made for
SEED = 2  # of the simulated weather: clouds at dusk that go
