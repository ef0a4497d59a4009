"""Problems of the family tangency."""
