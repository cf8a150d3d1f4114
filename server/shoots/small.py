"""Where the small pictures of an original lie."""

from shoots import files


def folder_of(content: str) -> str:
    return f"thumbnails/{content[:2]}/{content}"


def forget_thumbnails(content: str) -> None:
    for name in files.listed(folder_of(content)):
        files.forget(name)
