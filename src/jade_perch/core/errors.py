"""Errors of the job: each names the thing, the value, what is allowed and what to do."""

from typing import Any

from pydantic import BaseModel, ConfigDict
from pydantic_core import ErrorDetails

VALUE_SHOWN_CHARS = 80  # longer input is cut in messages; nobody reads more


class FieldProblem(BaseModel):
    """One field that cannot be taken as it is, in the words the page shows beside it."""

    model_config = ConfigDict(frozen=True)

    field: str
    value: str
    allowed: str
    cure: str
    detail: str


class JobError(ValueError):
    """Base of everything the core refuses."""


class OutOfRange(JobError):
    """A value lies outside what a rule or a field can take."""

    def __init__(self, field: str, value: object, allowed: str, cure: str) -> None:
        super().__init__(f"{field} is {value!r}; allowed is {allowed}. {cure}")
        self.field, self.value, self.allowed, self.cure = field, value, allowed, cure

    def problem(self) -> FieldProblem:
        """Return the error as the data a page shows beside the field.

        Source: rules.md#refusals.
        """
        return FieldProblem(
            field=self.field,
            value=shown(self.value),
            allowed=self.allowed,
            cure=self.cure,
            detail=str(self),
        )


def shown(value: object) -> str:
    """Return ``value`` as short text for a message; NaN and infinities keep their names.

    Source: rules.md#refusals.
    """
    text = value if isinstance(value, str) else repr(value)
    text = sayable(text[: VALUE_SHOWN_CHARS + 1])
    return text if len(text) <= VALUE_SHOWN_CHARS else text[: VALUE_SHOWN_CHARS - 1] + "…"


def sayable(text: str) -> str:
    """Return text with halves of characters written out, so that it can be sent.

    Source: rules.md#refusals.
    """
    return text.encode("utf-8", "backslashreplace").decode()


def field_problems(details: list[ErrorDetails]) -> list[FieldProblem]:
    """Translate Pydantic's findings into field, value, allowed and cure.

    ``details`` is what ``ValidationError.errors()`` gives; the first location part
    ``body`` or ``query`` (put there by the web layer) is left out of the field name.

    Source: rules.md#refusals.
    """
    return [_field_problem(detail) for detail in details]


def _field_problem(detail: ErrorDetails) -> FieldProblem:
    context: dict[str, Any] = detail.get("ctx") or {}
    place = [sayable(str(part)) for part in detail["loc"] if part not in ("body", "query", "path")]
    kind, given = detail["type"], detail["input"]
    field = str(context.get("field", ".".join(place) or "body"))
    if isinstance(context.get("error"), OutOfRange):
        refusal: OutOfRange = context["error"]
        return _problem(field, refusal.value, refusal.allowed, refusal.cure)
    if kind == "missing":
        return _problem(field, "(nothing)", "a value", f"Fill in {field}.")
    if kind == "extra_forbidden":
        return _problem(field, given, "only known fields", f"Leave {field} out.")
    if kind == "json_invalid":
        return _problem("body", "(unreadable)", "a JSON object", "Send well-formed JSON.")
    if kind == "literal_error":
        return _problem(field, given, str(context["expected"]), "Choose one of these.")
    allowed = str(context.get("allowed", detail["msg"]))
    value = context.get("value", given)
    return _problem(field, value, allowed, str(context.get("cure", "Correct the value.")))


def _problem(field: str, value: object, allowed: str, cure: str) -> FieldProblem:
    detail = f"{field} is {shown(value)}; allowed is {allowed}. {cure}"
    return FieldProblem(field=field, value=shown(value), allowed=allowed, cure=cure, detail=detail)
