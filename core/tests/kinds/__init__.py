"""Small files of every kind that is read or refused, and what others make of them. Made by make.py."""
