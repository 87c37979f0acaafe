"""Reading a rule's formulas: parsed, typed, and with the names they use resolved."""

from thistlequartz.core.language import (
    FormulaError,
    Problem,
    check_types,
    nearest,
    read_formula,
    tree,
)
from thistlequartz.core.language.inference import type_of_formula
from thistlequartz.core.language.resolution import resolved
from thistlequartz.core.language.shapes import ExpressionType, ListType, in_words
from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    ChoicesType,
    ChoiceType,
    ReferenceType,
    TextType,
    ValueType,
    YesNoType,
)

from .form_language import MAX_WHOLE_DEPTH, Language, too_large, unusable_conditions

_WHAT_TO_SAY: dict[type[ValueType] | None, str] = {YesNoType: tr("Say the condition.")}


class FormulaReader:
    """Reads the formulas of one rule, and collects what is wrong with them by place."""

    def __init__(self, language: Language) -> None:
        self.language = language
        self.problems: list[Problem] = []

    def report(self, message: str, remedy: str, place: str, *, unsaid: bool = False) -> None:
        """Note a problem at `place`; `unsaid`, where nothing has been said there yet."""
        self.problems.append(Problem(message, remedy, place, unsaid=unsaid))

    def known(self, key: str, place: str) -> bool:
        """Whether `key` is a field of the form; a problem at `place` where it is not."""
        fields = self.language.fields
        if key in fields:
            return True
        near = nearest(key, fields)
        remedy = (
            tr("Did you mean “{near}”?", near=near) if near else tr("Choose a field of this form.")
        )
        self.report(tr("There is no field “{key}” in this form.", key=key), remedy, place)
        return False

    def condition(self, text: str, place: str, *, others: bool = False) -> tree.Node | None:
        """The tree of a condition; `others` says whether it may read `other.key`."""
        return self.read(text, place, wanted=YesNoType, others=others)

    def read(
        self,
        text: str,
        place: str,
        *,
        wanted: type[ValueType] | None,
        others: bool = False,
    ) -> tree.Node | None:
        """The tree of a formula that gives `wanted`, or None with problems noted."""
        if not text:
            said = tr("Nothing has been said here.")
            self.report(said, _WHAT_TO_SAY.get(wanted, tr("Write a formula.")), place, unsaid=True)
            return None
        vocabulary = self.language.vocabulary
        try:
            node = read_formula(text)
        except FormulaError as error:
            self.problems.extend(problem.inside(place) for problem in error.problems)
            return None
        unusable = self.language.problems.keys()
        found = [
            *check_types(node, vocabulary, wanted=wanted),
            *unusable_conditions(node, set(unusable), vocabulary),
            *(() if others else _misplaced_others(node)),
        ]
        self.problems.extend(problem.inside(place) for problem in found)
        if found:
            return None
        said = too_large(node, self.language.sizes)
        if said:
            self.report(said, tr("Split it into several rules."), place)
            return None
        whole = resolved(node, vocabulary, self.language.conditions)
        if tree.depth(whole) > MAX_WHOLE_DEPTH:
            said = tr(
                "With the conditions it calls, this has over {max_whole_depth} levels of parts.",
                max_whole_depth=MAX_WHOLE_DEPTH,
            )
            self.report(said, tr("Split it into several rules."), place)
            return None
        return whole

    def value_for(self, key: str, text: str, place: str) -> tree.Node | None:
        """The tree of a formula whose value can stand in the field `key`."""
        if not self.known(key, place):
            return None
        node = self.read(text, place, wanted=None)
        if node is None:
            return None
        wanted = self.language.vocabulary[key].type.formula_type()
        found = type_of_formula(node, self.language.vocabulary)
        codes = {part.value for part in _given_values(node) if isinstance(part, tree.Text)}
        if not _can_stand_in(found, wanted):
            assert found is not None
            label = self.language.vocabulary[key].label
            said = tr(
                "{field} takes {type}, and this gives {given}.",
                field=label,
                type=in_words(wanted),
                given=in_words(found),
            )
            self.report(
                said, tr("Write a formula that gives {type}.", type=in_words(wanted)), place
            )
            return None
        if isinstance(wanted, ChoiceType | ChoicesType):
            for code in sorted(codes - {choice.code for choice in wanted.choices}):
                near = nearest(code, [choice.code for choice in wanted.choices])
                remedy = (
                    tr("Did you mean “{near}”?", near=near)
                    if near
                    else tr("Use the code of one of them.")
                )
                self.report(tr("There is no choice “{code}”.", code=code), remedy, place)
                return None
        return node


def _given_values(node: tree.Node) -> list[tree.Node]:
    """The literals that the whole formula can give, through if-then-else and lists."""
    match node:
        case tree.If(_, then, otherwise):
            return [*_given_values(then), *_given_values(otherwise)]
        case tree.ListOf(items):
            return [one for item in items for one in _given_values(item)]
        case _:
            return [node]


def _can_stand_in(found: ExpressionType, wanted: ValueType) -> bool:
    if found is None or type(found) is type(wanted):
        return True
    match wanted:
        case ChoiceType() | ReferenceType():
            return isinstance(found, TextType)
        case ChoicesType():
            return isinstance(found, ListType)
        case TextType():
            return isinstance(found, ChoiceType)
        case _:
            return False


def _misplaced_others(node: tree.Node) -> list[Problem]:
    return [
        Problem(
            tr("“other.{key}” can be read only in a rule about other records.", key=part.key),
            tr("Use the kind of rule that says “there must be no other record where …”."),
            position=part.at,
        )
        for part in tree.walk(node)
        if isinstance(part, tree.OtherField)
    ]
