"""The one home of shared caches: each value made once, however many threads ask at once."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from threading import Lock
from typing import Generic, TypeVar

Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")


class Kept(Generic[Key, Value]):
    """Values that are costly to make, by a key that names all that decides them.

    capacity : what may be kept, in the unit that `weight` counts (pieces, or bytes); the least
    recently used give way first, the last one made always stays. Kept in memory only, so that a new
    release begins with nothing.
    """

    def __init__(self, capacity: int, weight: Callable[[Value], int] = lambda value: 1) -> None:
        self._capacity, self._weight = capacity, weight
        self._values: OrderedDict[Key, Value] = OrderedDict()
        self._making: dict[Key, Future[Value]] = {}
        self._size = 0
        self._lock = Lock()

    def get(self, key: Key, make: Callable[[], Value]) -> Value:
        """The value of `key`, made when it is missing; who comes meanwhile waits for it.

        What `make` raises goes to everyone who waited, and nothing is kept.
        """
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
            waiting = self._making.get(key)
            if waiting is None:
                own: Future[Value] = Future()
                self._making[key] = own
        if waiting is not None:
            return waiting.result()
        try:
            value = make()
        except BaseException as error:
            with self._lock:
                del self._making[key]
            own.set_exception(error)
            raise
        with self._lock:
            del self._making[key]
            self._values[key] = value
            self._size += self._weight(value)
            while self._size > self._capacity and len(self._values) > 1:
                _, old = self._values.popitem(last=False)
                self._size -= self._weight(old)
        own.set_result(value)
        return value

    def __len__(self) -> int:
        return len(self._values)
