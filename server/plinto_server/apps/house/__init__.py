"""What a house decides once: sets of house rules and named ink rules."""
