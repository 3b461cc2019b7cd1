"""Hands that practise: they answer and turn by what a page is shown, and nothing else."""

from jade_perch.core.practice.sun_scenes import SUN_STEPS

UNSAFE = {one.words for one in SUN_STEPS if one.is_unsafe}


def right_answer(scene):
    """Which of the steps shown is unsafe; one past the last where none is."""
    words = [one["words"] for one in scene["steps"]]
    return next((n for n, one in enumerate(words) if one in UNSAFE), len(words))


def answer_the_sun_drill(post, wrong_at=None):
    """Play a whole round over the API; ``wrong_at`` is a scene answered wrongly."""
    run = post("/practice/runs", {"drill": "sun"})
    while not run["is_over"]:
        scene = run["scene"]
        choice = right_answer(scene)
        if scene["scene"] == wrong_at:
            choice = (choice + 1) % (len(scene["steps"]) + 1)
        move = {"drill": "sun", "choice": choice, "scene": scene["scene"]}
        run = post(f"/practice/runs/{run['id']}/moves", {"number": run["number"], "move": move})
    return run


def poster(client):
    """Ask an application by a test client."""

    def post(path, body):
        return client.post(f"/api{path}", json=body).raise_for_status().json()

    return post
