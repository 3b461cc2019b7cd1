"""Who is told what changed: each listener has its own queue, whatever thread a change is from."""

import asyncio
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from itertools import count
from uuid import uuid4

MOST_WAITING = 2000  # a listener that takes none of so many is let go, and reads anew


class Listener:
    """One open stream: texts wait in its queue; ``None`` says that it was let go."""

    def __init__(self, topics: frozenset[str]) -> None:
        self.topics = topics
        self.queue: asyncio.Queue[str | None] = asyncio.Queue()
        self.loop = asyncio.get_running_loop()

    def _put(self, text: str | None) -> None:
        is_full = self.queue.qsize() >= MOST_WAITING
        self.queue.put_nowait(None if is_full else text)

    def tell(self, text: str | None) -> None:
        """Put a text into the queue, from any thread; None ends it."""
        with suppress(RuntimeError):  # its loop has ended: nobody listens any more
            self.loop.call_soon_threadsafe(self._put, text)


class Broker:
    """Hands every text of a topic to every listener of that topic.

    ``boot`` and ``told`` let a listener that comes back see whether it missed something.
    """

    def __init__(self) -> None:
        self.boot = uuid4().hex
        self.told = 0
        self._count = count(1)
        self._listeners: set[Listener] = set()
        self._is_over = False

    @contextmanager
    def listen(self, topics: frozenset[str]) -> Iterator[Listener]:
        """Open a queue for some topics while the block runs."""
        listener = Listener(topics)
        self._listeners.add(listener)
        if self._is_over:
            listener.tell(None)
        try:
            yield listener
        finally:
            self._listeners.discard(listener)

    def let_go(self) -> None:
        """End every stream, those open and those still to come: the application ends."""
        self._is_over = True
        for listener in tuple(self._listeners):
            listener.tell(None)

    def next_number(self) -> int:
        """Return the number of the next change told."""
        self.told = next(self._count)
        return self.told

    def publish(self, topic: str, text: str) -> None:
        """Hand a text to everybody who listens to its topic."""
        for listener in tuple(self._listeners):
            if topic in listener.topics:
                listener.tell(text)
