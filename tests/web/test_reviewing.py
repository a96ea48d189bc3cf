"""What stands there, told in a form: reviewed with what nobody knows, one question answered by a press, refused in words."""

from collections.abc import Callable
from typing import Any

import pytest
from django.test import Client
from django.urls import reverse

from husbandry.setup_review.unknowns import priors
from ridgeback.accounts.models import Keeper
from ridgeback.language import reviewwords
from ridgeback.planner.models import PlanRevision
from ridgeback.units import METRIC

SNAKE: dict[str, Any] = {
    "species": "corn-snake", "mass_kg": "600 g", "length_m": "", "box": "4 x 2 x 2 ft", "kind": "glass", "lid": "mesh",
    "room_c": "70 F", "room_percent": "50 %", "ground": "aspen", "ground_m": "1.5 in", "bowl": "yes", "mistings": "0",
    "heater-kind": ["mat", ""], "heater-end": ["warm", "warm"], "heater-watts": ["20 W", ""], "heater-thermostat": ["?", "?"],
    "heater-set_c": ["", ""], "heater-guarded": ["?", "?"],
    "tube-kind": [""], "tube-months": [""], "tube-reflector": ["?"],
    "hide-end": ["warm", "cool", ""], "hide-humid": ["no", "no", "?"],
}  # fmt: skip


@pytest.fixture
def client(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    return client_of(owner)


def look(client: Client, **more: Any) -> Any:
    return client.post(reverse("reviewing:review"), SNAKE | more)


def test_what_is_told_is_reviewed_and_the_one_question_is_asked(client: Client) -> None:
    kept = PlanRevision.objects.count()
    answer = look(client)
    assert answer.status_code == 200
    assert answer.context["question"]["text"] == "Does a thermostat hold the heat mat under the ground?"
    assert "What hangs on what you do not know" in answer.content.decode()
    yes, no = answer.context["question"]["answers"]
    held, free = (look(client, answer=value) for value, _text in (yes, no))
    # The answer stands in the form, and is asked no more.
    assert held.context["fields"]["heaters"][0]["thermostat"] == "yes"
    assert free.context["fields"]["heaters"][0]["thermostat"] == "no"
    for one in (held, free):
        assert one.context["question"] is None or "thermostat" not in one.context["question"]["text"]
    said = {row["said"] for time in free.context["times"] for row in time["rows"]}
    assert any("thermostat" in text for text in said)
    assert PlanRevision.objects.count() == kept  # nothing is kept


def test_the_fields_come_back_as_they_were_meant(client: Client) -> None:
    fields = look(client).context["fields"]
    assert fields["box"] == "121.92 cm × 60.96 cm × 60.96 cm"
    assert fields["room_c"] == "21.11 °C"
    again = look(client, **{name: fields[name] for name in ("box", "room_c", "ground_m", "mass_kg")})
    assert again.context["fields"]["box"] == fields["box"]
    assert [hide["end"] for hide in fields["hides"] if hide] == ["warm", "cool"]


@pytest.mark.parametrize(
    ("wrong", "words"),
    [
        ({"box": "large"}, "large"),
        ({"box": ""}, ""),
        ({"species": ""}, "Choose its species."),
        ({"species": "dragon-of-the-moon"}, "The book has no"),
        ({"room_c": "warm"}, "warm"),
        ({"mistings": "99"}, ""),
        ({"mistings": "1.5"}, ""),
        ({"mass_kg": "-5 g"}, ""),
        ({"kind": "shoebox"}, ""),
        ({"box": "100 x 50 x 10 cm", "ground_m": "20 cm"}, "does not fit"),
    ],
)
def test_what_cannot_be_is_refused_in_words_and_stays_as_typed(client: Client, wrong: dict[str, str], words: str) -> None:
    answer = look(client, **wrong)
    assert answer.status_code == 422
    assert answer.context["faults"]
    assert words in " ".join(answer.context["faults"])
    (name, value), *_rest = wrong.items()
    assert answer.context["fields"][name] == value


def test_an_answer_to_what_is_not_asked_changes_nothing(client: Client) -> None:
    for odd in ("bowl|0", "heaters.0.thermostat|77", "heaters.0.thermostat|x", "nonsense", "heaters.9.watts|0"):
        answer = look(client, answer=odd)
        assert answer.status_code == 200
        assert answer.context["fields"]["heaters"][0]["thermostat"] == "?"


def test_every_question_and_answer_has_words() -> None:
    for asks, prior in priors().items():
        assert asks in reviewwords.ASKS
        told = [reviewwords.answer(asks, value, METRIC) for value, _weight in prior.answers]
        assert len(set(told)) == len(told)
        assert all(told)
