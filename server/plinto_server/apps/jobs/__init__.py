"""Jobs: one artwork with its destinations, each with a recipe; press views and figures."""
