"""Words for why a number is what it is, and for what a search or a scenario found, by the core's codes."""

from django.utils.translation import gettext_lazy as _

REASONS = {
    "space.rule": _("At least %(need)s for this stage."),
    "space.rule.body": _("At least %(need)s: %(factor)s × body length of %(body)s."),
    "space.rule.stretch": _("Length and width together at least %(need)s: %(factor)s × total length of %(body)s."),
    "space.rule.group": _("One alone would need %(alone)s; for %(animals)s animals more."),
    "space.recommended": _("Recommended: %(recommended)s."),
    "space.volume": _("Length × width × height; litres never stand in for floor."),
    "space.no_rule": _("The rule goes by body length, which is not known."),
    "ground.depth": _("%(litres)s of ground in all."),
    "water.depth": _("%(litres)s of water."),
    "water.balance": _(
        "Warmed by its heater and the ground, cooled by walls and evaporation; the air above is at %(air)s. "
        "This is the value after hours in a steady room; the room of a whole day warms and cools slowly, so the day's curve can "
        "stay a little short of it."
    ),
    "heat.balance": _(
        "Room %(room)s, %(watts)s of heat on average, about %(changes)s air changes an hour; walls, lid and ground lose the rest. "
        "This is the value after hours in that room; the day's curve can stay a little short of it."
    ),
    "heat.surface": _(
        "Takes %(lamps)s W/m² from the lamps and gives %(to_air)s to the air, %(to_walls)s to the walls it sees "
        "and %(to_bed)s to the ground below. Room %(room)s."
    ),
    "heat.mat": _("Hidden under %(depth)s of ground; the surface above it is at %(above)s. Deeper ground makes the mat hotter."),
    "heat.back": _("A dry dark back %(height)s above the surface, without the blood that cools it: the most it can be."),
    "heat.power": _("Mean power drawn, of %(limit)s installed."),
    "day.after": _("Until the basking surface reaches %(least)s."),
    "day.never": _("It never reaches %(least)s; %(highest)s is the most of the day."),
    "day.held_lit": _("Share of the light hours with the basking surface in its band, from %(least)s."),
    "day.held": _("Share of all 24 hours in the band of that hour."),
    "day.peak": _("At %(clock)s."),
    "day.least": _("At %(clock)s."),
    "day.energy": _("%(month)s a month of such days; the room step takes a price."),
    "day.energy_cost": _("%(month)s a month of such days, at your price %(cost)s."),
    "day.duty": _("Share of its %(hours)s that the %(watts)s %(kind)s works."),
    "day.water": _("Evaporated from bowl, ground and moss, and carried off in a day; %(given)s is misted."),
    "day.wet": _("%(water)s of water condenses in a day. Always wet is worse than dry: give it air."),
    "day.dries": _("The ground holds %(holds)s that can dry out; water it before half is gone."),
    "day.stays_damp": _("The ground holds %(holds)s and gains as much as it loses."),
    "heat.patch": _("Where the warmth is at least half its peak, %(drop)s below a %(watts)s lamp; it should cover the body."),
    "heat.patch.several": _(
        "Where %(lamps)s lamps together give at least half their peak, %(drop)s below the first; it should cover the body."
    ),
    "heat.hang": _("Full on in the winter room, %(wanted)s is reached at %(right)s."),
    "heat.hang_none": _("No height gives %(wanted)s with this lamp full on in the winter room: everywhere it is too cold."),
    "heat.hang_hot": _("Even at the highest place it is hotter than %(wanted)s with this lamp full on in the winter room."),
    "air.vapour": _("One vapour pressure of %(vapour)s Pa in the whole enclosure; the room has %(room_humidity)s."),
    "uv.field": _("%(kind)s, %(distance)s above the back."),
    "uv.field.mesh": _("%(kind)s, %(distance)s above the back, through mesh that lets %(mesh)s pass, less at a slant."),
    "uv.field.several": _("%(lamps)s lamps together; the first is a %(kind)s, %(distance)s above the back."),
    "uv.field.several_mesh": _(
        "%(lamps)s lamps together; the first is a %(kind)s, %(distance)s above the back, through mesh that lets %(mesh)s pass."
    ),
    "uv.field.none": _("No UV lamp is on by day."),
    "uv.shade": _("There must always be a place almost without UV."),
    "uv.coverage": _("Share of the length with an index of %(least)s or more at the back."),
    "uv.distance": _("The middle of the band is reached at %(right)s."),
    "uv.distance.several": _("%(lamps)s lamps together give the middle of the band where this one is at %(right)s."),
    "uv.distance.none": _("No distance gives the middle of the band."),
    "uv.no_distance": _("No UV reaches the back or none is wanted."),
    "uv.too_weak": _("Too weak at any distance for this band."),
    "uv.dose": _(
        "If it stayed on its spot all the %(hours)s the lamps are on, as the schools “sunbeam” and “shade” have it; "
        "%(short)s SED in short sessions of two hours in all; none where D3 comes with the food alone."
    ),
    "light.together": _("It is brightest at %(where)s; about %(lux)s lux on the basking spot."),
    "uv.hours": _("As long as the lamp with the longest hours burns."),
    "light.hours": _("From lights on to lights off."),
    "feed.interval": _("By the stage's rule."),
    "feed.interval.keeper": _("Your own interval."),
    "feed.interval.condition": _("The stage's rule, moved one step for its condition."),
    "feed.count": _("%(food)s."),
    "feed.mass": _("%(food)s, by share of body mass."),
    "feed.portion": _("%(food)s: %(portion)s."),
    "diet.growth": _("At an age of %(age)s the species' curve has %(expected)s."),
    "diet.energy": _(
        "%(intake)s. At %(mean)s on average it burns %(standard)s at rest; one living free would burn %(free)s; "
        "growth takes %(growth)s."
    ),
    "diet.energy_unknown": _("No equation serves this animal, or it was never weighed."),
    "diet.portion_unknown": _("Part of its food is a portion nobody weighs."),
    "diet.ratio": _("Over the whole week, with %(dust)s of powder on the meals; %(from_dust)s of the calcium is dust."),
    "diet.ratio_unknown": _("Calcium and phosphorus of most of this food are not known."),
    "diet.ratio_eggs": _("Of the egg without its shell; these snakes live on it all the same."),
    "diet.ratio_water": _("Of the food alone; what breathes water takes calcium from the water too."),
    "diet.vitamin": _("The sum over every powder of the rota, by the dry matter of the week's food."),
    "diet.bowl": _("Of the plants in the bowl, without powder."),
    "diet.dry_share": _("Share of dry matter, over the whole week."),
    "diet.fruit": _("Share of what is eaten, over the whole week."),
    "what.stuck_on": _("The %(watts)s %(kind)s stays on: past %(limit)s after %(minutes)s, up to %(highest)s."),
    "what.stuck_on_bearable": _("The %(watts)s %(kind)s stays on: it comes to %(highest)s and does not pass %(limit)s."),
    "what.stuck_off": _("The %(watts)s %(kind)s stays off."),
    "what.power_cold": _("No power from %(from)s: %(quantity)s is below %(limit)s after %(hours)s."),
    "what.power_danger": _("Below %(limit)s, which endangers it, after %(hours)s."),
    "what.power_bearable": _("No power for a day and a night: %(quantity)s falls to %(lowest)s and stays in its band."),
    "what.mister": _("No water: the cool end is below %(least)s after %(hours)s; in a week it falls to %(driest)s."),
    "what.mister_below": _("The cool end is below %(least)s on a usual day; without water it falls to %(driest)s in a week."),
    "what.mister_bearable": _("No water for a week: the cool end falls to %(driest)s and stays above %(least)s."),
    "rig.no_room": _("Nearer to the basking spot than %(gap)s in here."),
    "rig.narrow": _("Its warm patch is smaller than the body, %(body)s."),
    "rig.too_weak": _("Reaches only %(reached)s of the %(wanted)s wanted, as near as it may hang."),
    "rig.too_strong": _("Comes to %(reached)s in summer where %(wanted)s is the most, as high as it can hang."),
    "rig.burns_back": _("The back would come to %(back)s."),
    "rig.uv": _("Where its heat is right the back has a UV index of %(index)s."),
    "rig.none": _("No set of the kinds and strengths tried holds here."),
    "rig.unmet_cold": _(
        "%(quantity)s, %(season)s %(moment)s, stays at %(value)s: more heat without light, foam board outside, "
        "or a room of %(warmer)s."
    ),
    "rig.unmet_hot": _(
        "%(quantity)s, %(season)s %(moment)s, stays at %(value)s in a room of %(room)s: no heater cools. "
        "The room itself at %(cooler)s would do."
    ),
    "rig.likelier": _("It is likelier to hold: %(quantity)s%(when)s, %(mine)s against %(other)s for the next."),
    "rig.less_energy": _("As likely as the next, for less power: %(mine)s a year against %(other)s."),
    "rig.simpler": _("As likely as the next and no dearer to run, with %(mine)s heaters against %(other)s."),
    "rig.nearer": _("%(quantity)s%(when)s: %(mine)s, %(other)s with the next, which is farther off."),
    "rig.none_holds": _("It is the nearest; but neither it nor the next holds all bands here."),
    "rig.alike": _("The next is as good: take the one you have."),
    "hang.as_is": _("As it hangs now."),
    "hang.dim": _("On a %(control)s thermostat at %(wanted)s."),
    "hang.height": _("At %(height)s above the floor."),
    "hang.danger": _("It would bring a danger that is not there now."),
    "hang.no_height": _("No height gives %(wanted)s full on: everywhere it is too cold."),
    "hang.too_hot": _("Full on it is hotter than %(wanted)s even at the highest place."),
    "hang.too_near": _("Full on it would have to hang %(right)s over the spot: too near."),
    "hang.weaker": _("A weaker one of its kind, %(watts)s."),
    "hang.stronger": _("A stronger one of its kind, %(watts)s."),
    "hang.narrow": _("Under a deep dome, a narrower beam of %(angle)s° to each side."),
    "hang.wide": _("Under a wide dome, %(angle)s° to each side."),
    "hang.full_on": _("Without its thermostat, full on: only to compare."),
    "hang.burns": _("The back would come to %(back)s."),
}
