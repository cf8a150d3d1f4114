"""A request that is understood and refused, with what the person should know."""


class Refused(Exception):
    """status: HTTP; more: further fields of the answer."""

    def __init__(self, text: str, status: int, **more: object) -> None:
        super().__init__(text)
        self.status = status
        self.more = more
