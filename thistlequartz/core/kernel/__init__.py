"""The kernel: what conditions and formulas mean, said once, for every engine."""

from .lowering import lower
from .refusal import NotTranslated

__all__ = ["NotTranslated", "lower"]
