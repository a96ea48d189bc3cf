"""A question that is put before anything is written."""

from ridgeback.daybook.writing import Refused


class Question(Refused):
    """Nothing is written before this is answered.

    `answers` are (words, what is posted with the same form again); the first is the likely one.
    """

    def __init__(self, text: str, answers: list[tuple[str, dict[str, str]]]) -> None:
        super().__init__("question")
        self.text, self.answers = text, answers
