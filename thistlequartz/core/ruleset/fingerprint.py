"""Fingerprints of forms: equal exactly where nothing that their answers depend on differs."""

import hashlib

from .document import RuleSet
from .form_language import vocabulary_of
from .joining import whole_form

_CHARACTERS = 32


def rules_fingerprint(ruleset: RuleSet, key: str) -> str:
    """Hash of all that judging by the form `key` depends on.

    That is the form itself with what it takes from the forms it is derived from and from shared
    lists, and of each form it refers to the name and the fields that its formulas can read. Rules,
    purpose or layouts of a referred form do not count. Raises KeyError where there is no such form.
    """
    whole, problems = whole_form(ruleset, key)
    known = {one.key for one in ruleset.forms}
    referred = sorted(whole.referred_forms() & known)
    told = [whole.model_dump_json(), repr(problems)]
    for name in referred:
        other = whole_form(ruleset, name)[0]
        told.append(repr((name, other.name, vocabulary_of(other))))
    return hashlib.sha256("\n".join(told).encode()).hexdigest()[:_CHARACTERS]
