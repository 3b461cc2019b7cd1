"""Servers that are up at once: forked from one process that has everything read in already.

A start from nothing reads the sky's tables for seconds; what is tested here is the application,
not how fast a machine reads.  ``tests/test_command.py`` begins from nothing, as people do.
"""

import multiprocessing
import os
import sys
from multiprocessing.process import BaseProcess
from pathlib import Path

# the process that forks looks for modules where this one does
os.environ["PYTHONPATH"] = str(Path(__file__).parents[2])
CONTEXT = multiprocessing.get_context("forkserver")
CONTEXT.set_forkserver_preload(["tests.browser.warmed"])


def _serve(arguments: list[str]) -> None:
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    from jade_perch.cli import main

    sys.exit(main(arguments))


def start(arguments: list[str]) -> BaseProcess:
    """Start the command with some arguments in a process of its own."""
    process = CONTEXT.Process(target=_serve, args=(arguments,), daemon=True)
    process.start()
    return process
