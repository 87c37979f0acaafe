"""From the kernel to Z3: what can be known of a condition for every record at once.

A boolean is two truths (true, false; neither is null), any other value a blank beside an integer or
a real: dates are days, times microseconds, texts numbers of known texts. What cannot be said is
left free: whatever is impossible all the same is impossible, and what seems possible has to be
judged before it is believed.
"""

from .surroundings import TranslationContext
from .terms import CodesTerm, ListTerm, NullTerm, OpaqueTerm, Term, TruthTerm, ValueTerm
from .texts import TextTerms
from .translating import Translator

__all__ = [
    "CodesTerm",
    "ListTerm",
    "NullTerm",
    "OpaqueTerm",
    "Term",
    "TextTerms",
    "TranslationContext",
    "Translator",
    "TruthTerm",
    "ValueTerm",
]
