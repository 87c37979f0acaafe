"""The role by which a form is tried where none is given."""

from thistlequartz.core.enumerations import STORING_ROLES, Role

from .document import Form


def usual_role(form: Form) -> Role:
    """Return the role that stores records and has the most rules in scope.

    Of several the most usual one (see `STORING_ROLES`).
    """

    def rules_in_scope(role: Role) -> int:
        return sum(not rule.scope.roles or role in rule.scope.roles for rule in form.rules)

    return max(STORING_ROLES, key=rules_in_scope)
