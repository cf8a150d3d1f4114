"""Guided by what is reached, with a corpus that is kept: ./nubilis fuzz."""
