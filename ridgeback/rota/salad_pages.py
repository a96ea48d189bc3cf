"""The salad builder: what there is, in grams, and what it comes to while the hand is still at it."""

from dataclasses import dataclass
from typing import Any, Final

from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from husbandry.animal.body import Body, body_of
from husbandry.assess.nutrition import CLINICAL
from husbandry.assessment import Band, Change, Quantity, Reason
from husbandry.codes import ReasonCode
from husbandry.diet import nutrients, salads
from husbandry.diet.foods import PLANTS
from husbandry.diet.never import FORAGING, NEVER
from husbandry.diet.nutrients import Helping
from husbandry.diet.powders import POWDERS
from husbandry.feeding import bowls, week_food
from husbandry.inputs import ultraviolet
from husbandry.numerals import Decimal, NumberError
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.asking import Question
from ridgeback.daybook.writing import Refused
from ridgeback.drawing.marks import mark
from ridgeback.language import saladwords
from ridgeback.language.booktext import book
from ridgeback.language.told import later
from ridgeback.pantry import shelf
from ridgeback.planner import mapping, revisions
from ridgeback.planner.saving import save
from ridgeback.rooms.access import habitat_or_404
from ridgeback.units import written
from ridgeback.web import typed

MOST_G: Final = 5000.0
EXAMPLE_G: Final = 10.0  # where the animal's weight is not known
WANTED: Final = Band(nutrients.RATIO_WANTED[0], None, CLINICAL, danger_low=nutrients.RATIO_DANGER / 2)


@dataclass(frozen=True)
class BowlEater:
    """Who eats the bowl: the animal as the models see it, what the week feeds, all the animals' weight, a usual bowl."""

    plan: HabitatPlan
    body: Body
    fed: week_food.Fed
    kg: float | None
    usual_g: float | None


def eater_of(plan: HabitatPlan, profile: Profile) -> BowlEater:
    """The animal at the bowl, as of today."""
    today = clock.today()
    body = body_of(plan, profile, today)
    stage = body.decision.stage
    fed = week_food.fed(plan, profile, stage, body, uvb=ultraviolet.uvb_given(plan, stage, body, today))
    return BowlEater(plan, body, fed, bowls.eaters_kg(plan, profile, body), bowls.usual_g(plan, profile, fed, body))


def grams_of(given: QueryDict, decimal: Decimal) -> dict[str, float]:
    """The grams typed, by plant; what is no number above zero is none."""
    found = {}
    for key in bowls.plants():
        text = given.get(f"g-{key}", "").strip()
        try:
            grams = typed.amount(text, "g", decimal) if text else 0.0
        except NumberError:
            continue
        if 0 < grams <= MOST_G:
            found[key] = grams
    return found


@require_http_methods(["GET", "POST"])
def of_habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """The builder; a post answers with what the bowl comes to, or with the mix worked out from what is ticked."""
    habitat = habitat_or_404(request, pk)
    profile, plan = revisions.profile_of(habitat), mapping.plan_of(habitat)
    bowl, eater = salads.BOWLS[bowls.bowl_of(profile)], eater_of(plan, profile)
    usual = eater.usual_g or EXAMPLE_G
    if request.method == "POST":
        grams = grams_of(request.POST, units_of(request.user).decimal)
        ticked = [key for key in request.POST.getlist("have") if key in bowls.plants()]
    else:
        grams = {item.food: item.grams for item in plan.feeding.items if item.grams and item.food in bowls.plants()}
        named = next(
            (meal.foods for stage in profile.stages for meal in stage.feeding.meals if set(meal.foods) & set(bowls.plants())), ()
        )
        ticked = list(grams) or [key for key in named if key in bowls.plants()]
    store = {key: there for key, there in shelf.greens(habitat.room_id, clock.today()).items() if key in bowls.plants()}
    gave_way: tuple[str, ...] = ()
    if request.POST.get("mix") == "store":
        ticked = list(store)
        grams, gave_way = bowls.mixed(grams, ticked, bowl, usual, store)
    elif "mix" in request.POST or (request.method == "GET" and not grams and ticked):
        grams, gave_way = bowls.mixed(grams, ticked, bowl, usual)
    context = {
        "habitat": habitat,
        "plan": plan,
        "profile": profile,
        "parts": _parts(grams, ticked, bowl, store),
        "in_store": bool(store),
        "sums": sums(request, grams, bowl, gave_way, eater),
        "never": [saladwords.never(item) for item in NEVER if not item.whom or item.whom in _whom(profile)],
        "foraging": [saladwords.FORAGING[code] for code in FORAGING],
        "total": sum(grams.values()),
    }
    live = request.headers.get("HX-Request") and "mix" not in request.POST
    return render(request, "rota/_salad_sums.html" if live else "rota/salad.html", context)


def _whom(profile: Profile) -> set[str]:
    return saladwords.whom(profile.diet) | ({"grazers"} if bowls.bowl_of(profile) == "grazer" else set())


def _parts(grams: dict[str, float], ticked: list[str], bowl: salads.Parts, store: dict[str, float]) -> list[dict[str, Any]]:
    whole, wanted = sum(grams.values()), sum(bowl.shares.values())
    found = []
    for kind in PLANTS:
        rows = [
            {
                "key": key,
                "name": book(item.name),
                "grams": grams.get(key),
                "have": key in ticked or key in grams,
                "ratio": item.ratio,
                "there": store.get(key),
                "traits": [saladwords.TRAITS[trait] for trait in item.traits if trait in saladwords.TRAITS],
            }
            for key, item in bowls.plants().items()
            if item.kind == kind
        ]
        mine = sum(grams.get(key, 0.0) for key, item in bowls.plants().items() if item.kind == kind)
        found.append(
            {
                "kind": saladwords.PARTS[kind],
                "rows": rows,
                "share": 100 * mine / whole if whole else 0.0,
                "wanted": 100 * bowl.shares.get(kind, 0.0) / wanted,
                "open": any(row["have"] for row in rows),
            }
        )
    return found


def sums(
    request: HttpRequest, grams: dict[str, float], bowl: salads.Parts, gave_way: tuple[str, ...], eater: BowlEater
) -> dict[str, Any]:
    """What the bowl comes to: calcium over phosphorus as a band, the powder that would mend it, and what to mind."""
    units = units_of(request.user)
    week = nutrients.week(Helping(bowls.plants()[key], amount) for key, amount in grams.items())
    ratio = Quantity(
        "calcium_ratio", ":1", week.ratio, WANTED.judge(week.ratio), Reason(ReasonCode.DIET_BOWL, {}), CLINICAL, WANTED
    )
    whole = sum(grams.values())
    minds = []
    for name, most, code in (
        ("oxalate_share", nutrients.OXALATE_SHARE, "oxalate"),
        ("goitrogen_share", nutrients.GOITROGEN_SHARE, "goitrogen"),
        ("fruit_share", bowl.most_fruit, "fruit"),
    ):
        share = getattr(week, name)
        if share > most + 1e-9:
            minds.append(saladwords.MINDS[code] % {"share": f"{100 * share:.0f}", "most": f"{100 * most:.0f}"})
    dust = nutrients.dust_for_ratio(week, POWDERS["plain calcium"], nutrients.RATIO_WANTED[0]) if grams else 0.0
    return {
        "mark": mark(ratio, units) if grams else None,
        "dust_mg": round(1000 * dust) if dust > 0.0005 else 0,
        "minds": minds,
        "gave_way": [saladwords.GAVE_WAY[code] for code in gave_way],
        "fibre": None if week.fibre_share is None else 100 * week.fibre_share,
        "protein": None if week.protein_share is None else 100 * week.protein_share,
        "total": whole,
        "of_weight": of_weight(whole, eater),
        "usual": eater.usual_g,
        "too_much": bowls.doubtful(whole, eater.usual_g),
    }


def of_weight(grams: float, eater: BowlEater) -> float | None:
    """A bowl in percent of all the animals' weight; None where that is not known."""
    return None if eater.kg is None else grams / (10 * eater.kg)


@require_POST
def take(request: HttpRequest, pk: int) -> HttpResponse:
    """Feed this bowl from now on: it takes the place of the menu's greens, and what else is on the menu stays.

    Raises Refused where the rest has no amount to be carried along, and a Question about a bowl far above the usual.
    """
    habitat = habitat_or_404(request, pk)
    plan, grams = mapping.plan_of(habitat), grams_of(request.POST, units_of(request.user).decimal)
    eater = eater_of(plan, revisions.profile_of(habitat))
    if not grams:
        raise Refused("empty_bowl")
    usual, whole = eater.usual_g, sum(grams.values())
    if usual is not None and bowls.doubtful(whole, usual) and request.POST.get("sure") != "1":
        raise Question(
            _("%(grams)s g in each feed is %(share)s %% of the weight of what eats it; about %(usual)s g is usual. Is that so?")
            % {"grams": f"{whole:.0f}", "share": f"{of_weight(whole, eater):.0f}", "usual": written(usual, ".2g")},
            [
                (_("No: the same bowl, %(usual)s g of it") % {"usual": written(usual, ".2g")}, _scaled(grams, usual / whole)),
                (_("Yes, %(grams)s g") % {"grams": f"{whole:.0f}"}, {"sure": "1"}),
            ],
        )
    try:
        items = bowls.with_bowl(plan, eater.fed, eater.body, grams)
    except bowls.NotWeighableError as error:
        raise Refused("rest_unweighed", foods=", ".join(error.foods)) from None
    except bowls.TooManyFoodsError as error:
        raise Refused("too_many_foods", most=str(bowls.MOST_FOODS), count=str(error.count)) from None
    save(request, pk, (Change("feeding.items", items),), later(lambda: _("a bowl of greens")))
    return redirect("rota:menu", pk)


def _scaled(grams: dict[str, float], factor: float) -> dict[str, str]:
    return {f"g-{key}": f"{max(amount * factor, 0.1):.1f}" for key, amount in grams.items()}
