"""Choices that several of Quillhaven's forms share."""

from thistlequartz.core.ruleset import ChoiceList, ChoiceOption


def choices(*labels: str) -> tuple[ChoiceOption, ...]:
    """Choices whose codes are drawn from their labels."""
    return tuple(
        ChoiceOption(code=label.casefold().replace(" ", "_").replace("-", "_"), label=label)
        for label in labels
    )


COUNTRIES = ChoiceList(
    key="countries",
    label="Countries",
    choices=tuple(
        ChoiceOption(code=code, label=label)
        for code, label in (
            ("AT", "Austria"),
            ("CH", "Switzerland"),
            ("DE", "Germany"),
            ("FR", "France"),
            ("GB", "United Kingdom"),
            ("NL", "Netherlands"),
            ("NO", "Norway"),
            ("PT", "Portugal"),
            ("SE", "Sweden"),
        )
    ),
)
