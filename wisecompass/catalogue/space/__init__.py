"""Problems of the family space."""
