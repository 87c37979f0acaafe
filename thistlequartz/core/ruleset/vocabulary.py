"""What the expressions of a form may name."""

from thistlequartz.core.expression import Declared, Vocabulary
from thistlequartz.core.values import (
    Choice,
    ChoiceType,
    DateType,
    NumberType,
    TextType,
    ValueType,
    YesNoType,
)

from .document import (
    ChoiceField,
    DateField,
    DecimalField,
    Field,
    Form,
    TextField,
    WholeNumberField,
    YesNoField,
)


def vocabulary_of(form: Form) -> Vocabulary:
    """The fields of `form` by key, with label and type."""
    return {field.key: Declared(field.label, type_of(field)) for field in form.fields}


def type_of(field: Field) -> ValueType:
    """The type of the values that `field` holds."""
    match field:
        case TextField():
            return TextType()
        case WholeNumberField():
            return NumberType(scale=0, unit=field.unit)
        case DecimalField():
            return NumberType(scale=field.scale, unit=field.unit)
        case DateField():
            return DateType()
        case YesNoField():
            return YesNoType()
        case ChoiceField():
            return ChoiceType(tuple(Choice(c.code, c.label) for c in field.choices))
