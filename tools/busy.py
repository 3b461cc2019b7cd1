"""Runs the browser journeys over and over with every core kept busy by something else.

Run by ``make busy``; the number of rounds and what to run may be given:
``tools/busy.py 3 tests/browser/test_streams.py``.
"""

import multiprocessing
import os
import subprocess
import sys

ROUNDS = 10


def _turn(parent: int) -> None:
    """Keep a core busy for as long as who asked for it lives, however that one ends."""
    number = 0
    while os.getppid() == parent:
        number = (number * 1103515245 + 12345) % 2**31


def main() -> int:
    """Return 0 where every round passed."""
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else ROUNDS
    what = sys.argv[2:] or ["tests/browser"]
    context = multiprocessing.get_context("spawn")
    cores = range(os.cpu_count() or 1)
    others = [context.Process(target=_turn, args=(os.getpid(),), daemon=True) for _ in cores]
    for one in others:
        one.start()
    passed = 0
    command = [sys.executable, "-m", "pytest", "-n", "auto", "--dist", "worksteal", "-q", *what]
    for number in range(1, rounds + 1):
        passed += subprocess.run(command).returncode == 0
        print(f"round {number}: {passed} of {number} passed", flush=True)
    for one in others:
        one.terminate()
    return int(passed < rounds)


if __name__ == "__main__":
    sys.exit(main())
