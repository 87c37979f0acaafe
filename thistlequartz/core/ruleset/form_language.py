"""Names in the formulas of a form: its fields, fields referred to, named conditions."""

from collections.abc import Mapping

from thistlequartz.core.kinds import Language
from thistlequartz.core.kinds.base.form_language import (
    MAX_WHOLE_DEPTH,
    too_large,
    unusable_conditions,
    whole_size,
)
from thistlequartz.core.language import (
    Declaration,
    FormulaError,
    Problem,
    Vocabulary,
    check_types,
    read_formula,
    tree,
)
from thistlequartz.core.language.resolution import resolved
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    YesNoType,
)

from .document import Form, NamedCondition
from .fields import (
    Field,
    TextField,
)

NAMING_TEXTS = 2
"""Short texts of a form that people know its records by."""


def language_of(form: Form, forms: Mapping[str, Form] | None = None) -> Language:
    """The language of `form`; `forms` are those that its references may point to, by key."""
    fields = vocabulary_of(form, forms)
    vocabulary = dict(fields)
    for named in form.conditions:
        vocabulary[named.key] = Declaration(named.name, YesNoType(), condition=True)
    reader = _ConditionReader(form.conditions, vocabulary)
    for named in form.conditions:
        reader.read(named.key, ())
    places = {key: place for place, key in enumerate(fields)}
    return Language(fields, vocabulary, reader.trees, places, reader.sizes, reader.problems)


def vocabulary_of(form: Form, forms: Mapping[str, Form] | None = None) -> Vocabulary:
    """The fields of `form` by key, with label and type."""

    def referred(field: Field) -> Vocabulary | None:
        other = field.value_type(form.zone).referred_form
        return vocabulary_of(forms[other]) if other and forms and other in forms else None

    short = [one.key for one in form.fields if isinstance(one, TextField) and not one.long]
    return {
        field.key: Declaration(
            field.label,
            field.value_type(form.zone),
            field.reading_settings(),
            referred(field),
            names_record=field.key in short[:NAMING_TEXTS],
        )
        for field in form.fields
    }


def record_title(fields: Vocabulary, values: Mapping[str, object]) -> str:
    """What people know a record by: the form's first two short texts, where they are filled in."""
    naming = [key for key, one in fields.items() if one.names_record]
    return " · ".join(str(values[key]) for key in naming if values.get(key))


class _ConditionReader:
    """Reads named conditions, each after those it calls; circles are problems."""

    def __init__(self, conditions: tuple[NamedCondition, ...], vocabulary: Vocabulary) -> None:
        self.written = {named.key: named for named in conditions}
        self.vocabulary = vocabulary
        self.trees: dict[str, tree.Node] = {}
        self.sizes: dict[str, int] = {}
        self.problems: dict[str, tuple[Problem, ...]] = {}

    def read(self, key: str, calling: tuple[str, ...]) -> None:
        if key in self.trees or key in self.problems:
            return
        if key in calling:
            circle = " → ".join([*calling[calling.index(key) :], key])
            self._fail(
                key,
                tr("This condition calls itself: {circle}.", circle=circle),
                tr("Cut the circle."),
            )
            return
        try:
            node = read_formula(self.written[key].condition)
        except FormulaError as error:
            self.problems[key] = tuple(one.inside(f"conditions.{key}") for one in error.problems)
            return
        for called in sorted(tree.fields_read(node) & self.written.keys()):
            self.read(called, (*calling, key))
        found = (*check_types(node, self.vocabulary), *self.unusable(node))
        if not found and key not in self.problems and (said := too_large(node, self.sizes)):
            self._fail(key, said, tr("Split it into several conditions."))
        elif not found and key not in self.problems:
            whole = resolved(node, self.vocabulary, self.trees)
            if tree.depth(whole) > MAX_WHOLE_DEPTH:
                said = tr(
                    "With what it calls, this has over {max_whole_depth} levels of parts.",
                    max_whole_depth=MAX_WHOLE_DEPTH,
                )
                self._fail(key, said, tr("Split it into several conditions."))
            else:
                self.trees[key] = whole
                self.sizes[key] = whole_size(node, self.sizes)
        elif found:
            self.problems[key] = tuple(one.inside(f"conditions.{key}") for one in found)

    def _fail(self, key: str, said: str, remedy: str) -> None:
        self.problems[key] = (Problem(said, remedy, f"conditions.{key}"),)

    def unusable(self, node: tree.Node) -> tuple[Problem, ...]:
        return unusable_conditions(node, self.written.keys() - self.trees.keys(), self.vocabulary)
