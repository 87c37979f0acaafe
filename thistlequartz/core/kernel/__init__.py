"""The kernel: what conditions and formulas mean, said once, for every engine."""

from thistlequartz.core.language.refusal import NotTranslated

from .lowering import lower

__all__ = ["NotTranslated", "lower"]
