"""The same five verbs for every kind of kept item."""

import sqlite3
from collections.abc import Callable
from datetime import datetime
from typing import TypeVar

from fastapi import APIRouter

from jade_perch.api.dependencies import Db, ReadVersion, TheClock
from jade_perch.core.fields import Id, Item
from jade_perch.devices.clock import HouseClock
from jade_perch.store.items import (
    ItemTable,
    add_item,
    change_item,
    delete_item,
    list_items,
    restore_item,
)

T = TypeVar("T", bound=Item)


def add_item_routes(
    router: APIRouter,
    table: ItemTable[T],
    plural: str,
    refuse: Callable[[T, datetime], None] | None = None,
    add: Callable[[sqlite3.Connection, ItemTable[T], T], T] | None = add_item,
    change: Callable[[sqlite3.Connection, ItemTable[T], int, T], T] = change_item,
) -> None:
    """Add list, add, change, delete and undo for one table to a router, under ``/plural``.

    ``refuse`` raises for an item that cannot be true now; ``add`` stores whatever goes with one,
    None leaves adding to a route of the station's own; ``change`` keeps what a form does not send.
    """
    model, kind = table.model, table.kind

    def list_route(db: Db) -> list[T]:
        return list_items(db, table)

    def judged(item: T, clock: HouseClock) -> T:
        if refuse is not None:
            refuse(item, clock.now_utc())
        return item

    def change_route(item_id: Id, item: model, db: Db, clock: TheClock) -> T:  # type: ignore[valid-type]
        return change(db, table, item_id, judged(item, clock))

    def delete_route(item_id: Id, db: Db, version: ReadVersion = None) -> None:
        delete_item(db, table, item_id, version)

    def restore_route(item_id: Id, db: Db) -> T:
        return restore_item(db, table, item_id)

    every, one = f"/{plural}", f"/{plural}/{{item_id}}"
    router.get(every, response_model=list[model], operation_id=f"list_all_{kind}")(  # type: ignore[valid-type]
        list_route
    )
    if add is not None:

        def add_route(item: model, db: Db, clock: TheClock) -> T:  # type: ignore[valid-type]
            return add(db, table, judged(item, clock))

        adding = router.post(
            every, response_model=model, status_code=201, operation_id=f"add_{kind}"
        )
        adding(add_route)
    router.put(one, response_model=model, operation_id=f"change_{kind}")(change_route)
    router.delete(one, status_code=204, operation_id=f"delete_{kind}")(delete_route)
    restore = router.post(f"{one}/restore", response_model=model, operation_id=f"restore_{kind}")
    restore(restore_route)
