"""Form fields that read what people type by the one reader: numbers, whole numbers, dates."""

from datetime import date
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.core.validators import MaxValueValidator, MinValueValidator

from husbandry import numerals
from husbandry.numerals import Decimal, NumberError
from husbandry.units import parse
from ridgeback.web import typed


def why_not(error: NumberError, text: str) -> str:
    """Why what was typed was not taken."""
    from ridgeback.language.wording import unread  # the words stand above the fields that use them

    return unread(error, text)


class _Typed(forms.Field):
    """A field of text read by `_read`; `decimal` is set by the form to the keeper's way of writing."""

    decimal: Decimal = ""

    def __init__(self, *, min_value: float | None = None, max_value: float | None = None, **more: Any) -> None:
        more.setdefault("widget", forms.TextInput(attrs={"inputmode": "decimal", "size": 8}))
        super().__init__(**more)
        if min_value is not None:
            self.validators.append(MinValueValidator(min_value))
        if max_value is not None:
            self.validators.append(MaxValueValidator(max_value))

    def to_python(self, value: Any) -> Any:
        text = "" if value is None else str(value)
        if not text.strip():
            return None
        try:
            return self._read(text)
        except NumberError as error:
            raise ValidationError(why_not(error, text)) from None

    def _read(self, text: str) -> Any:
        raise AssertionError("said by the fields themselves")


class NumberField(_Typed):
    """A number in `unit`, as `husbandry.units` names it; a bare one needs none."""

    def __init__(self, *, unit: str = "1", **more: Any) -> None:
        super().__init__(**more)
        self.unit = unit

    def _read(self, text: str) -> float:
        return parse(text, self.unit, self.decimal)


class WholeField(_Typed):
    """A whole number from zero on."""

    def _read(self, text: str) -> int:
        return numerals.whole(text, self.decimal)


class DayField(forms.DateField):
    """A date; the browser's own field sends it in ISO form, a hand types it as it likes."""

    def __init__(self, **more: Any) -> None:
        more.setdefault("widget", forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"))
        super().__init__(**more)

    def to_python(self, value: Any) -> date | None:
        if value is None or isinstance(value, date) or not str(value).strip():
            return value or None
        try:
            return typed.day(str(value))
        except NumberError as error:
            raise ValidationError(why_not(error, str(value))) from None


def written_by(form: forms.BaseForm, decimal: Decimal) -> None:
    """Let every field of a form read numbers the way this keeper writes them."""
    for field in form.fields.values():
        if isinstance(field, _Typed):
            field.decimal = decimal


__all__ = ["DayField", "NumberField", "WholeField", "why_not", "written_by"]
