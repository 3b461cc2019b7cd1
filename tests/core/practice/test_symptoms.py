"""The symptom finder: every cause is reached, and no question asks in vain."""

from jade_perch.core.evening.setup import TITLES
from jade_perch.core.practice.run import DRILLS
from jade_perch.core.practice.symptoms import TREE

STATIONS = {"kit", "powers", "plan"}


def ways(key):
    """Every way from a question to a cause, answer by answer."""
    question = next((one for one in TREE.questions if one.key == key), None)
    if question is None:
        return [[key]]
    return [[key, *rest] for answer in question.answers for rest in ways(answer.to)]


def test_every_cause_is_reached_from_a_symptom_in_a_few_questions():
    found = [way for one in TREE.symptoms for way in ways(one.first)]
    assert {way[-1] for way in found} == {one.key for one in TREE.causes}
    assert {key for way in found for key in way[:-1]} == {one.key for one in TREE.questions}
    assert max(len(way) for way in found) <= 8
    assert len(TREE.symptoms) == 12


def test_no_question_has_answers_that_all_lead_to_the_same_place():
    for question in TREE.questions:
        assert len({one.to for one in question.answers}) == len(question.answers), question.key
        ends = {frozenset(way[-1] for way in ways(one.to)) for one in question.answers}
        assert len(ends) > 1, question.key


def test_keys_are_one_each_words_are_short_and_every_place_is_one():
    keys = [one.key for one in (*TREE.questions, *TREE.causes)]
    assert len(keys) == len(set(keys))
    for one in TREE.questions:
        assert len(one.words.split()) <= 15 and one.words.endswith("?")
    for one in TREE.causes:
        assert one.place in STATIONS or one.place in TITLES
        assert one.drill is None or one.drill in DRILLS
        assert set(TREE.places) >= {one.place}
