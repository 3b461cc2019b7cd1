"""Building blocks of the models: ranges and labels that explain themselves when refused."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Annotated, Any, TypeVar
from unicodedata import normalize
from zoneinfo import ZoneInfo

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    ValidationError,
)
from pydantic_core import PydanticCustomError, core_schema

from jade_perch.core.errors import VALUE_SHOWN_CHARS, sayable
from jade_perch.core.strays import stray_words

NAME_CHARS = 80  # longest name that still fits a label on the ladder or a chip
WORDS_CHARS = 4000  # longest note; about two handwritten pages
MOST_ID = 2**63 - 1  # the largest number the database counts to
# Days that can be meant: older logs stay on paper, and nobody plans so far; our choice.
FIRST_YEAR_KEPT = 1900
LAST_YEAR_KEPT = 2099
FIRST_DAY, LAST_DAY = date(FIRST_YEAR_KEPT, 1, 1), date(LAST_YEAR_KEPT, 12, 31)


class Frozen(BaseModel):
    """Base of every core model: immutable, no unknown fields, no NaN or infinity."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


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
    said = sayable(value) if isinstance(value, str) else value
    context: dict[str, Any] = {"allowed": allowed, "cure": cure, "value": said}
    if field is not None:
        context["field"] = field
    return PydanticCustomError("refused", "allowed is {allowed}. {cure}", context)


def _short(number: float) -> str:
    return str(number) if isinstance(number, int) else f"{number:g}"


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
        return f"{_short(self.low)} to {_short(self.high)} {self.unit}".rstrip()

    def _check(self, value: Any, inner: core_schema.ValidatorFunctionWrapHandler) -> Any:
        try:
            number = inner(value)
        except ValidationError as error:
            raise refused(None, value, self.allowed, self._cure_of(value)) from error
        if not self.low <= number <= self.high:
            raise refused(None, value, self.allowed, self.cure)
        return number

    def _cure_of(self, value: Any) -> str:
        """Return the cure, after what in a typed text was the trouble."""
        words = stray_words(value[:VALUE_SHOWN_CHARS]) if isinstance(value, str) else ""
        return f"{words} {self.cure}".lstrip()

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


def folded(name: str) -> str:
    """Return a name as names are compared: whatever its capitals, and however accents are written.

    Source: rules.md#names.
    """
    return normalize("NFC", normalize("NFD", name).casefold())


def is_whole_text(text: str) -> bool:
    """Return whether text can be kept and sent: no zero character, no half of a character.

    Source: rules.md#refusals.
    """
    return "\x00" not in text and not any("\ud800" <= one <= "\udfff" for one in text)


@dataclass(frozen=True)
class Text:
    """Annotation: text from ``at_least`` to ``chars`` characters, blanks around it left out."""

    chars: int
    at_least: int = 0
    cure: str = "Shorten or fill in the text."

    @property
    def allowed(self) -> str:
        least = f"{self.at_least} to" if self.at_least else "up to"
        return f"{least} {self.chars} characters"

    def _check(self, value: Any, inner: core_schema.ValidatorFunctionWrapHandler) -> str:
        text = value.strip() if isinstance(value, str) else None
        if text is None or not self.at_least <= len(text) <= self.chars:
            raise refused(None, value, self.allowed, self.cure)
        if not is_whole_text(text):
            raise refused(None, value, "text of whole characters", "Type the text anew.")
        return str(inner(text))

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.no_info_wrap_validator_function(self._check, handler(source))

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        described: dict[str, Any] = handler(schema)
        least = {"minLength": self.at_least} if self.at_least else {}
        return described | least | {"maxLength": self.chars}


@dataclass(frozen=True)
class UpTo:
    """Annotation: a list or a dict of at most ``most`` entries, each a ``what``."""

    most: int
    what: str = "entries"
    cure: str = "Leave some out."

    def require(self, value: Any, field: str | None = None) -> Any:
        """Return what has few enough entries; raises the refusal otherwise.

        Source: rules.md#refusals.
        """
        if hasattr(value, "__len__") and len(value) > self.most:
            given = f"{len(value)} {self.what}"
            raise refused(field, given, f"up to {self.most} {self.what}", self.cure)
        return value

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.no_info_after_validator_function(self.require, handler(source))

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        described: dict[str, Any] = handler(schema)
        most = {"maxItems": self.most} if "items" in described else {"maxProperties": self.most}
        return described | most


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
        moment = value.astimezone(UTC)
    except OverflowError:
        moment = datetime.min.replace(tzinfo=UTC)
    if not FIRST_DAY <= moment.date() <= LAST_DAY:
        cure = "Correct the year."
        raise refused(None, value.isoformat(), f"a time from {FIRST_DAY} to {LAST_DAY}", cure)
    return moment


def _of_our_time(value: date) -> date:
    if not FIRST_DAY <= value <= LAST_DAY:
        allowed = f"a day from {FIRST_DAY} to {LAST_DAY}"
        raise refused(None, value.isoformat(), allowed, "Correct the year.")
    return value


def _loaded(value: Any) -> Any:
    return json.loads(value) if isinstance(value, str) else value


Name = Annotated[str, Text(NAME_CHARS, at_least=1)]
Label = Annotated[str, Text(NAME_CHARS)]
Words = Annotated[str, Text(WORDS_CHARS)]
Zone = Annotated[str, Text(NAME_CHARS, at_least=1), AfterValidator(_known_zone)]
UtcTime = Annotated[datetime, AfterValidator(_in_utc)]
Day = Annotated[date, AfterValidator(_of_our_time)]
Id = Annotated[int, Range(1, MOST_ID, "", "Choose one of those that are there.")]
Version = Annotated[int, Range(1, MOST_ID, "", "Send the version that was read.")]
FEW_TICKS = UpTo(100)  # far more than any list of checks has
Loaded = BeforeValidator(_loaded)  # takes JSON text as it is stored; anything else as it is


class Item(Frozen):
    """A thing that is kept: once it is stored it has an ``id``, and a ``version`` a change."""

    id: Id | None = None
    version: Version | None = None
