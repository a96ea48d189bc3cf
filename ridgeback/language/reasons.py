"""Words for why a number is what it is, and for what a search or a scenario found, by the core's codes."""

from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from husbandry.codes import FindingCode, ReasonCode

REASONS: Final[dict[str, Any]] = {
    ReasonCode.SPACE_RULE: _("At least %(need)s for this stage."),
    "space.rule.body": _("At least %(need)s: %(factor)s × body length of %(body)s."),
    "space.rule.stretch": _("Length and width together at least %(need)s: %(factor)s × total length of %(body)s."),
    "space.rule.group": _("One alone would need %(alone)s; for %(animals)s animals more."),
    "space.recommended": _("Recommended: %(recommended)s."),
    ReasonCode.SPACE_OPEN_TOP: _("Open above: no height is asked for; its walls must be too high and too smooth to climb."),
    ReasonCode.WATER_NO_PROTEIN: _("Nobody knows the protein of its food: test the water before each change."),
    ReasonCode.WATER_TURNOVER: _("The filter moves %(flow)s an hour, of %(litres)s."),
    ReasonCode.WATER_FILTER_WEEKS: _("It takes %(least)s to %(most)s weeks until what lives in a filter holds the ammonia."),
    ReasonCode.WATER_RESERVOIR: _("%(litres)s at what the pump gives a day."),
    ReasonCode.WATER_SPRAYS: _("%(times)s: by %(nozzles)s nozzles of %(each)s g a minute each."),
    ReasonCode.WATER_NITRATE: _(
        "Its food brings about %(nitrogen)s mg of nitrogen a day into %(litres)s; every %(days)s days %(changed)s are changed, "
        "with about %(drops)s of conditioner at a usual dose: go by its bottle."
    ),
    ReasonCode.WATER_AMMONIA: _(
        "Its food brings about %(nitrogen)s mg of nitrogen a day into %(litres)s; every %(days)s days %(changed)s are changed, "
        "with about %(drops)s of conditioner at a usual dose: go by its bottle. At pH %(ph)s and %(water)s, %(free)s %% of the "
        "ammonia is the kind that poisons. Test the water: what rots comes on top."
    ),
    ReasonCode.SPACE_FREE_FLOOR: _("%(area)s is free; the longest straight way is %(longest)s."),
    ReasonCode.SPACE_HIDE_PLACE: _(
        "The ground's surface where it lies, %(where)s from the left: what sleeps there has about this warmth."
    ),
    ReasonCode.SPACE_VOLUME: _("Length × width × height; litres never stand in for floor."),
    ReasonCode.SPACE_NO_RULE: _("The rule goes by body length, which is not known."),
    ReasonCode.GROUND_DEPTH: _("%(litres)s of ground in all."),
    ReasonCode.WATER_DEPTH: _("%(litres)s of water."),
    ReasonCode.WATER_BALANCE: _(
        "Warmed by its heater and the ground, cooled by walls and evaporation; the air above is at %(air)s. "
        "This is the value after hours in a steady room; the room of a whole day warms and cools slowly, so the day's curve can "
        "stay a little short of it."
    ),
    ReasonCode.HEAT_BALANCE: _(
        "Room %(room)s, %(watts)s of heat on average, about %(changes)s air changes an hour; walls, lid and ground lose the rest. "
        "This is the mean of the light or of the dark hours, each stretch between two timers by what it comes to in the end; "
        "the day's curve can stay a little short of it."
    ),
    ReasonCode.HEAT_SURFACE: _(
        "Takes %(lamps)s W/m² from the lamps and gives %(to_air)s to the air, %(to_walls)s to the walls it sees "
        "and %(to_bed)s to the ground below. Room %(room)s. By day this is the mean of the hottest two hours of the light."
    ),
    ReasonCode.HEAT_MAT_SURFACE: _("What its belly lies on over the mat, which reaches %(below)s below %(depth)s of ground."),
    ReasonCode.HEAT_MAT: _(
        "Hidden under %(depth)s of ground; the surface above it is at %(above)s. Deeper ground makes the mat hotter."
    ),
    ReasonCode.HEAT_BACK: _("A dry dark back %(height)s above the surface, without the blood that cools it: the most it can be."),
    ReasonCode.HEAT_POWER: _("Mean power drawn, of %(limit)s installed."),
    ReasonCode.DAY_AFTER: _("Until the basking surface reaches %(least)s."),
    ReasonCode.DAY_NEVER: _("It never reaches %(least)s; %(highest)s is the most of the day."),
    ReasonCode.DAY_HELD_LIT: _("Share of the light hours with the basking surface in its band, from %(least)s."),
    ReasonCode.DAY_HELD: _("Share of all 24 hours in the band of that hour."),
    ReasonCode.DAY_PEAK: _("At %(clock)s."),
    ReasonCode.DAY_LEAST: _("At %(clock)s."),
    ReasonCode.DAY_ENERGY: _("%(month)s a month of such days; the room step takes a price."),
    ReasonCode.DAY_ENERGY_COST: _("%(month)s a month of such days, at your price %(cost)s."),
    ReasonCode.DAY_DUTY: _("Share of its %(hours)s that the %(watts)s %(kind)s works."),
    ReasonCode.DAY_WATER: _("Evaporated from bowl, ground and moss, and carried off in a day; %(given)s is misted."),
    ReasonCode.DAY_WET: _("%(water)s of water condenses in a day. Always wet is worse than dry: give it air."),
    ReasonCode.DAY_DRIES: _("The ground holds %(holds)s that can dry out; water it before half is gone."),
    ReasonCode.DAY_STAYS_DAMP: _("The ground holds %(holds)s and gains as much as it loses."),
    ReasonCode.HEAT_PATCH: _(
        "Where the warmth is at least half its peak, %(drop)s below a %(watts)s lamp; it should cover the body."
    ),
    "heat.patch.several": _(
        "Where %(lamps)s lamps together give at least half their peak, %(drop)s below the first; it should cover the body."
    ),
    ReasonCode.HEAT_HANG: _("Full on in the winter room, %(wanted)s is reached at %(right)s."),
    ReasonCode.HEAT_HUNG: _("From the lamp down to the basking surface."),
    ReasonCode.HEAT_HANG_NONE: _(
        "No height gives %(wanted)s with this lamp full on in the winter room: everywhere it is too cold."
    ),
    ReasonCode.HEAT_HANG_BETWEEN: _(
        "With this lamp full on in the winter room it stays colder than %(wanted)s on the mesh, and gets hotter under it: "
        "a dimmer holds it."
    ),
    ReasonCode.HEAT_HANG_HOT: _(
        "Even at the highest place it is hotter than %(wanted)s with this lamp full on in the winter room."
    ),
    ReasonCode.AIR_VAPOUR: _("One vapour pressure of %(vapour)s Pa in the whole enclosure; the room has %(room_humidity)s."),
    ReasonCode.UV_FIELD: _("%(kind)s, %(distance)s above the back."),
    "uv.field.mesh": _("%(kind)s, %(distance)s above the back, through mesh that lets %(mesh)s pass, less at a slant."),
    "uv.field.several": _("%(lamps)s lamps together; the first is a %(kind)s, %(distance)s above the back."),
    "uv.field.several_mesh": _(
        "%(lamps)s lamps together; the first is a %(kind)s, %(distance)s above the back, through mesh that lets %(mesh)s pass."
    ),
    "uv.field.none": _("No UV lamp is on by day."),
    ReasonCode.UV_SHADE: _("There must always be a place almost without UV."),
    ReasonCode.UV_COVERAGE: _("Share of the length with an index of %(least)s or more at the back."),
    ReasonCode.UV_DISTANCE: _("The middle of the band is reached at %(right)s."),
    "uv.distance.several": _("%(lamps)s lamps together give the middle of the band where this one is at %(right)s."),
    "uv.distance.none": _("No distance gives the middle of the band."),
    ReasonCode.UV_NO_DISTANCE: _("No UV reaches the back or none is wanted."),
    ReasonCode.UV_TOO_WEAK: _("Too weak at any distance for this band."),
    ReasonCode.UV_DOSE: _(
        "If it stayed on its spot all the %(hours)s the lamps are on, as the schools “sunbeam” and “shade” have it; "
        "%(short)s SED in short sessions of two hours in all; none where D3 comes with the food alone."
    ),
    ReasonCode.SPACE_AT_PLACE: _("At its back, %(where)s from the left and %(height)s above the floor."),
    ReasonCode.HEAT_AT_PROBE: _("By the model, %(where)s from the left and %(height)s above the floor."),
    ReasonCode.LIMIT_ROOM_WARM: _("With everything off it would be %(off)s in this room of %(room)s, and %(most)s is the most."),
    ReasonCode.LIMIT_LIGHT_WARM: _(
        "Its tubes and light bars alone bring it from %(off)s to %(lit)s, and %(most)s is the most: cooler light, or a cooler room."
    ),
    ReasonCode.LIMIT_NEEDED_ELSEWHERE: _(
        "With so much less heat that it holds %(most)s, %(quantity)s would be %(value)s on a %(season)s %(phase)s, "
        "and %(least)s is the least."
    ),
    ReasonCode.LIMIT_TOO_MUCH_ELSEWHERE: _(
        "With so much more heat that it holds %(least)s, %(quantity)s would be %(value)s on a %(season)s %(phase)s, "
        "and %(most)s is the most."
    ),
    ReasonCode.LIMIT_ROOM_MOIST: _(
        "With nothing misted, no plants and dry ground it would be %(off)s in this room of %(room)s, and %(most)s is the most."
    ),
    ReasonCode.LIMIT_ROOM_DRY: _("Nothing is misted here, so it goes by the room's %(room)s, and %(least)s is the least."),
    ReasonCode.LIMIT_AIR_DRY: _("With as much water as the floor takes it would be %(value)s, and %(least)s is the least."),
    ReasonCode.LIMIT_MUCH_MIST: _(
        "Only with %(grams)s g of mist a day would it hold %(least)s: the room's air at %(room)s dries as it is warmed."
    ),
    ReasonCode.LIMIT_TOO_WET_ELSEWHERE: _(
        "With so much more water that it holds %(least)s, %(quantity)s would be %(value)s on a %(season)s %(phase)s, "
        "and %(most)s is the most."
    ),
    ReasonCode.LIMIT_NO_TUBE: _("No tube in the list gives this index from anywhere it can hang here."),
    ReasonCode.LIMIT_TUBE_WARMS: _("The warmth of a tube would be too much in this room."),
    ReasonCode.LIGHT_TOGETHER: _("It is brightest at %(where)s; about %(lux)s lux on the basking spot."),
    ReasonCode.UV_HOURS: _("As long as the lamp with the longest hours burns."),
    FindingCode.LIGHT_HOURS: _("From lights on to lights off."),
    ReasonCode.LIGHT_HOURS_AT_REST: _("Shorter than awake: a rest is planned for these weeks."),
    ReasonCode.LIGHT_HOURS_ON: _("On %(day)s, by the year you chose."),
    ReasonCode.FEED_INTERVAL: _("By the stage's rule."),
    "feed.interval.keeper": _("Your own interval."),
    "feed.interval.condition": _("The stage's rule, moved one step for its condition."),
    ReasonCode.FEED_COUNT: _("%(food)s."),
    ReasonCode.FEED_MASS: _("%(food)s, by share of body mass."),
    ReasonCode.FEED_PORTION: _("%(food)s: %(portion)s."),
    ReasonCode.DIET_GROWTH: _("At an age of %(age)s the species has from %(lean)s, grown lean, to %(fast)s, grown fast."),
    ReasonCode.DIET_GROWTH_OWN: _(
        "At an age of %(age)s the species has from %(lean)s, grown lean, to %(fast)s; this one is lighter, and its own weighings "
        "show that it keeps growing."
    ),
    ReasonCode.DIET_ENERGY: _(
        "%(intake)s. At %(mean)s on average it burns %(standard)s at rest; one living free would burn %(free)s; "
        "growth takes %(growth)s."
    ),
    ReasonCode.DIET_INTAKE: _("Fresh food a day, of the body mass of all the animals. It judges where no energy does."),
    ReasonCode.DIET_INTAKE_DRY: _("Dry matter a day, of the body mass of all the animals: fresh grass and hay differ fourfold."),
    ReasonCode.DIET_ENERGY_UNKNOWN: _("No equation serves this animal, or it was never weighed."),
    ReasonCode.DIET_PORTION_UNKNOWN: _("Part of its food is a portion nobody weighs."),
    ReasonCode.DIET_RATIO: _("Over the whole week, with %(dust)s of powder on the meals; %(from_dust)s of the calcium is dust."),
    ReasonCode.DIET_RATIO_UNKNOWN: _("Calcium and phosphorus of most of this food are not known."),
    ReasonCode.DIET_RATIO_EGGS: _("Of the egg without its shell; these snakes live on it all the same."),
    ReasonCode.DIET_RATIO_WATER: _("Of the food alone; what breathes water takes calcium from the water too."),
    ReasonCode.DIET_A_RETINOL: _(
        "The sum over prey and powders, by the dry matter of the week's food. It makes none of the carotene in greens and gut-load."
    ),
    ReasonCode.DIET_A_CAROTENE: _(
        "The sum over its food and powders, by the dry matter of the week's food. It makes vitamin A of the carotene in greens."
    ),
    ReasonCode.DIET_VITAMIN: _("The sum over every powder of the rota, by the dry matter of the week's food."),
    ReasonCode.DIET_BOWL: _("Of the plants in the bowl, without powder."),
    ReasonCode.DIET_DRY_SHARE: _("Share of dry matter, over the whole week."),
    ReasonCode.DIET_FRUIT: _("Share of what is eaten, over the whole week."),
    ReasonCode.WHAT_STUCK_ON: _("The %(watts)s %(kind)s stays on: past %(limit)s after %(minutes)s, up to %(highest)s."),
    ReasonCode.WHAT_STUCK_ON_BEARABLE: _("The %(watts)s %(kind)s stays on: it comes to %(highest)s and does not pass %(limit)s."),
    ReasonCode.WHAT_STUCK_OFF: _("The %(watts)s %(kind)s stays off."),
    ReasonCode.WHAT_POWER_COLD: _("No power from %(from)s: %(quantity)s is below %(limit)s after %(hours)s."),
    ReasonCode.WHAT_POWER_DANGER: _("Below %(limit)s, which endangers it, after %(hours)s."),
    ReasonCode.WHAT_POWER_BEARABLE: _("No power for a day and a night: %(quantity)s falls to %(lowest)s and stays in its band."),
    ReasonCode.WHAT_MISTER: _("No water: the cool end is below %(least)s after %(hours)s; in a week it falls to %(driest)s."),
    ReasonCode.WHAT_MISTER_BELOW: _(
        "The cool end is below %(least)s on a usual day; without water it falls to %(driest)s in a week."
    ),
    ReasonCode.WHAT_MISTER_BEARABLE: _("No water for a week: the cool end falls to %(driest)s and stays above %(least)s."),
    ReasonCode.RIG_NO_ROOM: _("Nearer to the basking spot than %(gap)s in here."),
    ReasonCode.RIG_NARROW: _("Its warm patch is smaller than the body, %(body)s."),
    ReasonCode.RIG_TOO_WEAK: _("Reaches only %(reached)s of the %(wanted)s wanted, as near as it may hang."),
    ReasonCode.RIG_TOO_STRONG: _("Comes to %(reached)s in summer where %(wanted)s is the most, as high as it can hang."),
    ReasonCode.RIG_BURNS_BACK: _("The back would come to %(back)s."),
    ReasonCode.RIG_UV: _("Where its heat is right the back has a UV index of %(index)s."),
    ReasonCode.RIG_NONE: _("No set of the kinds and strengths tried holds here."),
    ReasonCode.RIG_UNMET_COLD: _(
        "%(quantity)s, %(season)s %(phase)s, stays at %(value)s: more heat without light, foam board outside, "
        "or a room of %(warmer)s."
    ),
    ReasonCode.RIG_UNMET_HOT: _(
        "%(quantity)s, %(season)s %(phase)s, stays at %(value)s in a room of %(room)s: no heater cools. "
        "The room itself at %(cooler)s would do."
    ),
    ReasonCode.RIG_LIKELIER: _("It is likelier to hold: %(quantity)s%(when)s, %(mine)s against %(other)s for the next."),
    ReasonCode.RIG_LESS_ENERGY: _("As likely as the next, for less power: %(mine)s a year against %(other)s."),
    ReasonCode.RIG_SIMPLER: _("As likely as the next and no dearer to run, with %(mine)s heaters against %(other)s."),
    ReasonCode.RIG_NEARER: _("%(quantity)s%(when)s: %(mine)s, %(other)s with the next, which is farther off."),
    ReasonCode.RIG_NONE_HOLDS: _("It is the nearest; but neither it nor the next holds all bands here."),
    ReasonCode.RIG_ALIKE: _("The next is as good: take the one you have."),
    ReasonCode.HANG_AS_IS: _("As it hangs now."),
    ReasonCode.HANG_DIM: _("On a %(control)s thermostat at %(wanted)s."),
    ReasonCode.HANG_HEIGHT: _("At %(height)s above the floor."),
    ReasonCode.HANG_DANGER: _("It would bring a danger that is not there now."),
    ReasonCode.HANG_NO_HEIGHT: _("No height gives %(wanted)s full on: everywhere it is too cold."),
    ReasonCode.HANG_BETWEEN: _("Full on it is hotter than %(wanted)s under the mesh and colder on it."),
    ReasonCode.HANG_TOO_HOT: _("Full on it is hotter than %(wanted)s even at the highest place."),
    ReasonCode.HANG_TOO_NEAR: _("Full on it would have to hang %(right)s over the spot: too near."),
    ReasonCode.HANG_WEAKER: _("A weaker one of its kind, %(watts)s."),
    ReasonCode.HANG_STRONGER: _("A stronger one of its kind, %(watts)s."),
    ReasonCode.HANG_NARROW: _("Under a deep dome, a narrower beam of %(angle)s° to each side."),
    ReasonCode.HANG_SIDE_BY_SIDE: _("%(count)s of %(watts)s side by side, %(apart)s apart."),
    ReasonCode.HANG_SIDE_BY_SIDE_HELD: _("%(count)s of %(watts)s side by side, %(apart)s apart, on thermostats at %(wanted)s."),
    ReasonCode.HANG_WIDE: _("Under a wide dome, %(angle)s° to each side."),
    ReasonCode.HANG_FULL_ON: _("Without its thermostat, full on: only to compare."),
    ReasonCode.HANG_BURNS: _("The back would come to %(back)s."),
}
