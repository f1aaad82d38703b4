"""What a player may bring along: styles, manners, substitutes and scales of one's own, checked as they are read."""
