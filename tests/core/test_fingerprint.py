"""What a form's answers depend on: each part of the demo changed in turn, by its own meaning."""

import pytest

from thistlequartz.core.ruleset import rules_fingerprint
from thistlequartz.demo.forms import RELEASED as RULES

KEYS = [form.key for form in RULES.forms]


def with_form(form):
    return RULES.model_copy(
        update={"forms": tuple(form if one.key == form.key else one for one in RULES.forms)}
    )


def refers_to(key, other):
    return any(one.type == "reference" and one.form == other for one in RULES.form(key).fields)


def stale(key, changed):
    return rules_fingerprint(RULES, key) != rules_fingerprint(changed, key)


@pytest.mark.parametrize("key", KEYS)
@pytest.mark.parametrize("other", KEYS)
def test_fingerprint_changes_only_with_what_the_form_names(key, other):
    form = RULES.form(other)
    for part in ("rules", "sections", "layouts", "starters", "conditions"):
        if getattr(form, part):
            without = with_form(form.model_copy(update={part: getattr(form, part)[:-1]}))
            assert stale(key, without) == (key == other), part
    purpose = with_form(form.model_copy(update={"purpose": "Another one."}))
    assert stale(key, purpose) == (key == other)
    for place, field in enumerate(form.fields):
        renamed = field.model_copy(update={"label": "Another label"})
        fields = (*form.fields[:place], renamed, *form.fields[place + 1 :])
        changed = with_form(form.model_copy(update={"fields": fields}))
        assert stale(key, changed) == (key == other or refers_to(key, other)), field.key


@pytest.mark.parametrize("key", KEYS)
def test_fingerprint_changes_with_a_shared_list_that_is_used(key):
    used = {getattr(one, "choice_list", None) for one in RULES.form(key).fields}
    used |= {
        getattr(one, "choice_list", None)
        for other in KEYS
        if refers_to(key, other)
        for one in RULES.form(other).fields
    }
    for place, one in enumerate(RULES.choice_lists):
        shorter = one.model_copy(update={"choices": one.choices[:-1]})
        lists = (*RULES.choice_lists[:place], shorter, *RULES.choice_lists[place + 1 :])
        changed = RULES.model_copy(update={"choice_lists": lists})
        assert stale(key, changed) == (one.key in used), one.key
