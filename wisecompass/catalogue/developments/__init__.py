"""Problems of the family developments."""
