"""Problems of the family triangles."""
