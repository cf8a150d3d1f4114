"""The demo account's name and password; it exists only where ./nubilis demo has made it."""

DEMO_NAME = "demo"
DEMO_PASSWORD = "quillwick"
