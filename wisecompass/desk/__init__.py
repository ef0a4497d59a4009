"""The desk: the Qt window. The only package that knows a screen."""
