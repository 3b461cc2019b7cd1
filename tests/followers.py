"""Who answers hands: the rules alone, which keep the rounds themselves, or the API."""

from jade_perch.core.bench.finder import FinderInput, advise_finder
from jade_perch.core.bench.level import LevelInput, advise_level
from tests.guarded import CLEAR

LONGEST_FIELD_DEG = 2.0


def seen_of(place):
    """What a page tells of a place in the finder's view; None is out of it."""
    if place is None:
        return {"trouble": "lost"}
    return {"seen_right": float(place[0]), "seen_up": float(place[1])}


def level_by_rules(mount):
    rounds = []

    def answer(reading):
        told = advise_level(LevelInput(reading=reading), mount, rounds)
        rounds.append(told.round_)
        return told.model_dump()

    return answer


def finder_by_rules(finder, landmark):
    rounds = []

    def answer(place):
        given = FinderInput(finder_id=1, landmark=landmark, **seen_of(place))
        told = advise_finder(given, finder, LONGEST_FIELD_DEG, CLEAR, rounds)
        rounds.append(told.round_)
        return told.model_dump()

    return answer


def post(client, path, body):
    return client.post(f"/api/{path}", json=body).raise_for_status().json()


def level_over_http(client):
    def answer(reading):
        told = post(client, "setup/level?turned=true", {"reading": reading})
        if told["is_done"]:
            post(client, "setup/level?recorded=true", {"reading": reading})
        return told

    return answer


def finder_over_http(client, finder_id, landmark):
    def answer(place):
        body = {"finder_id": finder_id, "landmark": landmark, **seen_of(place)}
        told = post(client, "setup/finder?turned=true", body)
        if told["agrees"]:
            post(client, "setup/finder?recorded=true", {**body, "main_tube": "still_there"})
        return told

    return answer
