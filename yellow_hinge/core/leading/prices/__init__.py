"""What every placing and every motion of the hands costs, and what is said of it."""
