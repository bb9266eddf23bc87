"""ICC profiles in the store."""
