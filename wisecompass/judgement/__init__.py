"""What methods are worth for these very numbers, and how far an ordinary hand strays."""
