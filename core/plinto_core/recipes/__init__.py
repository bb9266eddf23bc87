"""Recipes: plain data that says how artwork becomes inks, and the one way to run them."""

from plinto_core.recipes.recipe import Delivery, Recipe, parse_recipe
from plinto_core.recipes.route import ColourRoute
from plinto_core.recipes.run import run_recipe

__all__ = ["ColourRoute", "Delivery", "Recipe", "parse_recipe", "run_recipe"]
