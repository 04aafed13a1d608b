"""Words as any sheet can hold them."""


def plain(text: str) -> str:
    """One line without control codes, which no drawing's format can carry: a blank stands for each."""
    return text if text.isprintable() else "".join(char if char.isprintable() else " " for char in text)
