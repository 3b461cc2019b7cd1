"""Building blocks of the models: ranges and labels that explain themselves when refused."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Annotated, Any, TypeVar
from zoneinfo import ZoneInfo

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    ValidationError,
    WrapValidator,
)
from pydantic_core import PydanticCustomError, core_schema

NAME_CHARS = 80  # longest name that still fits a label on the ladder or a chip
WORDS_CHARS = 4000  # longest note; about two handwritten pages


class Frozen(BaseModel):
    """Base of every core model: immutable, no unknown fields, no NaN or infinity."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Item(Frozen):
    """A thing that is kept: once it is stored it has an ``id``, and a ``version`` a change."""

    id: int | None = None
    version: int | None = None


class Choice(Frozen):
    """One answer among a few: how it is written down, and how it is offered."""

    value: str
    title: str


S = TypeVar("S", bound=str)


def choices(titles: Mapping[S, str]) -> list[Choice]:
    """Return the answers among which one is chosen, by their titles.  Source: rules.md#words."""
    return [Choice(value=value, title=title) for value, title in titles.items()]


NOT_WRITTEN = ("id", "version")  # what the store gives an item, and no file carries


def refused(field: str | None, value: object, allowed: str, cure: str) -> PydanticCustomError:
    """Return the error a validator raises; ``field`` is None where the location names it.

    Source: rules.md#refusals.
    """
    context: dict[str, Any] = {"allowed": allowed, "cure": cure, "value": value}
    if field is not None:
        context["field"] = field
    return PydanticCustomError("refused", "allowed is {allowed}. {cure}", context)


@dataclass(frozen=True)
class Range:
    """Annotation: a number from ``low`` to ``high`` inclusive, in ``unit``, with a ``cure``.

    Wrong types, NaN and infinities end in the same explained refusal as numbers out of range.
    """

    low: float
    high: float
    unit: str
    cure: str

    @property
    def allowed(self) -> str:
        return f"{self.low:g} to {self.high:g} {self.unit}".rstrip()

    def _check(self, value: Any, inner: core_schema.ValidatorFunctionWrapHandler) -> Any:
        try:
            number = inner(value)
        except ValidationError as error:
            raise refused(None, value, self.allowed, self.cure) from error
        if not self.low <= number <= self.high:
            raise refused(None, value, self.allowed, self.cure)
        return number

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.no_info_wrap_validator_function(self._check, handler(source))

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        described: dict[str, Any] = handler(schema)
        return described | {"minimum": self.low, "maximum": self.high}


@dataclass(frozen=True)
class OneOf:
    """Annotation: one of some names, such as the rows of a table of traits."""

    names: tuple[str, ...]

    def _check(self, value: Any) -> str:
        if not isinstance(value, str) or value not in self.names:
            quoted = [f"'{name}'" for name in self.names]
            allowed = f"{', '.join(quoted[:-1])} or {quoted[-1]}"
            raise refused(None, value, allowed, "Choose one of these.")
        return value

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.no_info_before_validator_function(self._check, handler(source))

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        described: dict[str, Any] = handler(schema)
        return described | {"enum": list(self.names)}


def range_of(model: type[BaseModel], field: str) -> Range:
    """Return the range of a model's number, for text that is to become one.

    Source: rules.md#refusals.
    """
    return next(one for one in model.model_fields[field].metadata if isinstance(one, Range))


def _text_up_to(chars: int, at_least: int) -> WrapValidator:
    allowed = f"{at_least} to {chars} characters" if at_least else f"up to {chars} characters"

    def check(value: Any, inner: core_schema.ValidatorFunctionWrapHandler) -> str:
        text = value.strip() if isinstance(value, str) else None
        if text is None or not at_least <= len(text) <= chars or "\x00" in text:
            raise refused(None, value, allowed, "Shorten or fill in the text.")
        return str(inner(text))

    return WrapValidator(check)


def _known_zone(value: str) -> str:
    try:
        ZoneInfo(value)
    except (KeyError, ValueError, OSError) as error:
        cure = "Type the zone of the place, not an abbreviation."
        raise refused(None, value, "an IANA zone such as Europe/Berlin", cure) from error
    return value


def _in_utc(value: datetime) -> datetime:
    if value.tzinfo is None:
        cure = "Add an offset such as +01:00 or Z."
        raise refused(None, value.isoformat(), "a time with its offset from UTC", cure)
    try:
        return value.astimezone(UTC)
    except OverflowError as error:
        cure = "Type a year between 1 and 9999."
        raise refused(None, value.isoformat(), "a time of the calendar", cure) from error


def _loaded(value: Any) -> Any:
    return json.loads(value) if isinstance(value, str) else value


Name = Annotated[str, _text_up_to(NAME_CHARS, at_least=1)]
Label = Annotated[str, _text_up_to(NAME_CHARS, at_least=0)]
Words = Annotated[str, _text_up_to(WORDS_CHARS, at_least=0)]
Zone = Annotated[str, AfterValidator(_known_zone)]
UtcTime = Annotated[datetime, AfterValidator(_in_utc)]
Loaded = BeforeValidator(_loaded)  # takes JSON text as it is stored; anything else as it is
