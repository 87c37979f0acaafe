"""Help in writing rules: recipes, tiers, copies for another form, and a form from a file."""

from .copying import names_in, renamed
from .keys import drawn_key
from .profiling import ColumnProfile, Profile, ProfileError, ProposedRule, profile
from .recipes import RECIPES, Recipe, RecipeError, RecipeSlot, recipe_rules
from .tiers import Tier, Tiers, tiers_in, tiers_rules

__all__ = [
    "RECIPES",
    "ColumnProfile",
    "Profile",
    "ProfileError",
    "ProposedRule",
    "Recipe",
    "RecipeError",
    "RecipeSlot",
    "Tier",
    "Tiers",
    "drawn_key",
    "names_in",
    "profile",
    "recipe_rules",
    "renamed",
    "tiers_in",
    "tiers_rules",
]
