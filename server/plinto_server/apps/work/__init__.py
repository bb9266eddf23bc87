"""Long work in workers: the rows that are watched, what is done to them, the list of all of them."""
