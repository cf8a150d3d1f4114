"""Nubilis core: finds and neutralises local colour casts, and proves what it did.

Imports neither Django nor anything of HTTP. A recipe says what to do; the engine turns
(photo, recipe, view) into pixels.
"""
