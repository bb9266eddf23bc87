"""Recipes: plain data that says how artwork becomes inks, and the one way to run them."""

from plinto_core.recipes.recipe import NO_LIMIT, Delivery, Recipe, parse_recipe, tac_in_force
from plinto_core.recipes.route import ColourRoute
from plinto_core.recipes.run import run_recipe

__all__ = [
    "NO_LIMIT",
    "ColourRoute",
    "Delivery",
    "Recipe",
    "parse_recipe",
    "run_recipe",
    "tac_in_force",
]
