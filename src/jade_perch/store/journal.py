"""The table of the journal station."""

from jade_perch.core.evening.journal import Observation
from jade_perch.store.items import ItemTable

OBSERVATIONS = ItemTable("observation", Observation, order_by="observed_at_utc DESC")
