"""Problems of the family polygons."""
