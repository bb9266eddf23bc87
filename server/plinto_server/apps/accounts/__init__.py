"""Who uses Plinto: sign-in, sign-out, the present session."""
