"""The demo: an account, conditions, artwork, jobs and a print room, all invented."""
