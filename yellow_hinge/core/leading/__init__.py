"""Voice leading: what a change of chord costs the hands, and the solver that keeps a whole song smooth."""
