"""What is wrong, and what would mend it: a sentence for every code of the review."""

from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from husbandry.codes import FindingCode, RemedyCode

FINDINGS: Final[dict[FindingCode, Any]] = {
    FindingCode.ROOM_SUN_KILLS: _(
        "Sun through the glass, %(watts)s of it, would take it to %(value)s: that kills within the hour."
    ),
    FindingCode.ROOM_SUN: _("Sun through the glass, %(watts)s of it, would take it to %(value)s on a clear day."),
    FindingCode.SPACE_TOO_SMALL: _("Too small for this stage: at least %(length)s × %(width)s × %(height)s."),
    FindingCode.SPACE_SMALL_BY_SCHOOL: _(
        "Keepers disagree about this size. The book asks for at least %(length)s × %(width)s × %(height)s; "
        "it is large enough %(school)s."
    ),
    FindingCode.SPACE_OUTGROWN_SOON: _("At its pace it outgrows this enclosure about %(day)s."),
    FindingCode.MEASURED_LOW: _(
        "Read on %(day)s, a %(season)s %(phase)s: %(quantity)s %(value)s; %(limit)s is the least. The model alone says %(model)s."
    ),
    FindingCode.MEASURED_HIGH: _(
        "Read on %(day)s, a %(season)s %(phase)s: %(quantity)s %(value)s; %(limit)s is the most. The model alone says %(model)s."
    ),
    FindingCode.MEASURED_UV_LOW: _(
        "Read on %(day)s: %(quantity)s %(value)s; %(limit)s is the least. The model alone says %(model)s."
    ),
    FindingCode.MEASURED_UV_HIGH: _(
        "Read on %(day)s: %(quantity)s %(value)s; %(limit)s is the most. The model alone says %(model)s."
    ),
    FindingCode.MEASURED_NO_THERMOMETER: _(
        "Nothing but the thermostat shows how warm it is: no thermometer at the warm and at the cool end."
    ),
    FindingCode.WATER_NONE: _("It needs water to live in, and there is none."),
    FindingCode.WATER_TOO_LITTLE: _("Only %(value)s of water; %(low)s is the least."),
    FindingCode.WATER_SHALLOW: _("The water is %(value)s deep; %(low)s is the least."),
    FindingCode.WATER_DEEP: _("The water is %(value)s deep; %(high)s is the most."),
    FindingCode.WATER_COLD: _("The water stays at %(value)s on a %(season)s %(phase)s; %(low)s is the least."),
    FindingCode.WATER_WARM: _("The water reaches %(value)s on a %(season)s %(phase)s; %(high)s is the most."),
    FindingCode.SPACE_OPEN_TOP: _("The top is open, and it climbs or leaps out."),
    FindingCode.SPACE_PAST_WALL: _("A %(part)s reaches %(over)s past the wall."),
    FindingCode.SPACE_OVERLAP_ALIKE: _("Two things of one kind (%(part)s) stand in one another by %(shared)s."),
    FindingCode.SPACE_TALL_HIDE: _("A hide of %(height)s does not fit under the lid; %(most)s is the most."),
    FindingCode.SPACE_OVERLAP: _("The %(part)s and the %(other)s stand in one another by %(shared)s."),
    FindingCode.SPACE_IN_POOL: _("The %(part)s stands in the water, %(shared)s of it."),
    FindingCode.SPACE_HIDE_UNDER_LAMP: _(
        "The top of a %(part)s is %(gap)s from the lamp: what climbs on it burns, and what lies in it cooks."
    ),
    FindingCode.MOISTURE_BOWL_UNDER_LAMP: _("The %(part)s stands under the lamp: the water is warm, foul and soon gone."),
    FindingCode.MOISTURE_BOWL_SMALL: _("The bowl is %(value)s across; to lie in it, this animal needs %(low)s."),
    FindingCode.MOISTURE_BOWL_DEEP: _("The water in the bowl is %(value)s deep: over %(high)s this animal can drown."),
    FindingCode.MOISTURE_AT_SOCKETS: _(
        "The %(part)s stands %(value)s from the wall where the sockets are; %(low)s keeps what is spilt away. "
        "Every cable hangs in a loop below its socket, on residual-current protection: ask a licensed electrician."
    ),
    FindingCode.MOISTURE_BOWL_BRIM: _("The water is said to stand %(value)s deep in a bowl that is %(rim)s high."),
    FindingCode.MOISTURE_BOWL_SHALLOW: _(
        "With the animal in it the water in the bowl stands %(value)s deep; it takes %(low)s to cover its back."
    ),
    FindingCode.MOISTURE_BOWL_OVERFLOWS: _(
        "The bowl runs over when the animal lies in it: its body lifts the water by %(rise)s, and the rim is %(rim)s high. "
        "The ground around it becomes wet."
    ),
    FindingCode.WATER_BELOW_GROUND: _("The water would stand at %(value)s, below the ground's surface at %(ground)s."),
    FindingCode.LAYING_SITE: _(
        "A grown female of its kind lays eggs without a male too, and needs moist ground of %(least)s to %(most)s to dig in."
    ),
    FindingCode.QUARANTINE_SHORT: _(
        "It came on %(day)s. A new animal of its kind stays apart from all others for %(least)s to %(most)s weeks, "
        "until its tests are clean: not before %(until_day)s."
    ),
    FindingCode.GROUND_QUARANTINE: _("In quarantine the floor is paper, so that what it passes is seen; here it is %(kind)s."),
    FindingCode.SPACE_NO_WARM_HIDE: _(
        "No hide is warm on a %(season)s %(phase)s: the warmest lies at %(value)s, and %(low)s is the least. "
        "The ground reaches %(there)s, %(place)s from the left."
    ),
    FindingCode.SPACE_NO_COOL_HIDE: _(
        "No hide is cool on a %(season)s %(phase)s: the coolest lies at %(value)s, and %(high)s is the most. "
        "The ground stays at %(there)s, %(place)s from the left."
    ),
    FindingCode.SPACE_HIDE_TIGHT: _("A hide is %(value)s long; for an animal of this size %(low)s is the least."),
    FindingCode.SPACE_OPENING_TIGHT: _("A hide's opening is %(value)s wide; this animal needs %(low)s to get through."),
    FindingCode.SPACE_LITTLE_FLOOR: _("Only %(value)s of the floor is left to walk on; %(low)s is the least."),
    FindingCode.SPACE_SOFTENS: _(
        "The %(part)s of %(stuff)s gets about %(value)s under the lamp, and it bears %(high)s: it softens, smells or scorches."
    ),
    FindingCode.SPACE_ON_LOOSE_GROUND: _(
        "The %(part)s weighs about %(value)s and stands on loose ground: an animal that digs under it is crushed."
    ),
    FindingCode.WATER_NITRATE: _("Nitrate stands at about %(value)s before each change of water; %(high)s is the most."),
    FindingCode.WATER_AMMONIA: _(
        "Ammonia that poisons stands at about %(value)s before each change of water; %(high)s is the most, and no filter that "
        "has run long enough holds it."
    ),
    FindingCode.WATER_FILTER_YOUNG: _(
        "The filter has run for %(value)s; from %(low)s on it holds the ammonia. Until then change part of the water every day, "
        "and test it."
    ),
    FindingCode.WATER_FILTER_SLOW: _("The filter moves all the water %(value)s; %(low)s is the least."),
    FindingCode.WATER_FILTER_FAST: _("The filter moves all the water %(value)s: a strong current for it; %(high)s is the most."),
    FindingCode.WATER_RESERVOIR: _("The mister's reservoir lasts %(value)s; for a weekend away %(low)s is wanted."),
    FindingCode.SPACE_PERCH: _("A %(part)s is %(value)s thick; feet of this size hold on to %(low)s to %(high)s."),
    FindingCode.SPACE_FALL: _(
        "From the %(part)s it can fall %(value)s, with no way down beside it; %(high)s is the most it bears."
    ),
    FindingCode.SPACE_PLACE_HOT: _("On the %(part)s at %(where)s it meets %(value)s in %(season)s; %(high)s is the most."),
    FindingCode.SPACE_PLACE_STRONG: _("On the %(part)s at %(where)s its back gets UV index %(value)s; %(high)s is the most."),
    FindingCode.SPACE_OUT_OF_REACH: _("The %(part)s at %(where)s hangs %(value)s away from anything it could climb from."),
    FindingCode.SPACE_TOPPLES: _(
        "A tortoise gets up on the %(part)s, %(value)s high, and can fall on its back; under a lamp that kills. "
        "A step of %(high)s is safe."
    ),
    FindingCode.SPACE_GAP_OUT: _("It gets out by the gap %(gap_at)s: %(value)s wide, and its body is %(body)s."),
    FindingCode.SPACE_GAP_STICKS: _("It can stick in the gap %(gap_at)s: %(value)s wide, and its body is %(body)s."),
    FindingCode.SPACE_GAP_HIDES: _(
        "It gets into the gap %(gap_at)s, %(value)s wide, and lives there unseen: it is not found, fed or weighed."
    ),
    FindingCode.SPACE_GROUND_OVER_SILL: _(
        "Behind the door the ground is %(value)s deep and the lip %(high)s high: it falls out when the door opens."
    ),
    FindingCode.SPACE_IN_DOORWAY: _("The %(part)s leans on what opens: it falls, or keeps the door shut."),
    FindingCode.SPACE_NO_VIEW: _("The %(part)s stands before where it basks: it wants to see out, with cover behind it."),
    FindingCode.SPACE_BURIED: _("The %(part)s stands %(tall)s tall on the floor, under %(ground)s of ground: nothing of it shows."),
    FindingCode.SPACE_LIT_HIDE: _("Light falls into the %(part)s: a hide is dark inside."),
    FindingCode.SPACE_SEEN_ALL_ROUND: _(
        "It is seen through on %(count)s sides: nothing covers its back, and it walks along the glass."
    ),
    FindingCode.MOISTURE_NO_DROPS: _("It drinks drops from leaves, and nobody mists."),
    FindingCode.PLANT_POISONOUS: _("The %(plant)s is poisonous, and this animal eats plants."),
    FindingCode.PLANT_FRAIL: _("The %(plant)s does not bear an animal of this weight."),
    FindingCode.PLANT_OUTGROWS: _("In a year the %(plant)s is %(value)s tall; there is room for %(high)s."),
    FindingCode.PLANT_DARK: _("The %(plant)s gets about %(lux)s lux; it grows from %(low)s lux."),
    FindingCode.PLANT_SCORCHED: _("The %(plant)s gets about %(lux)s lux; above %(high)s lux its leaves scorch."),
    FindingCode.PLANT_HOT: _("The air at the %(plant)s reaches %(value)s; it bears %(high)s."),
    FindingCode.PLANT_DRY: _("The %(plant)s wants damp ground, and the ground there is dry."),
    FindingCode.PLANT_ROTS: _("The %(plant)s wants dry ground, and rots where it is kept damp."),
    FindingCode.SPACE_HIDES: _("%(have)s of %(want)s hides: %(names)s."),
    FindingCode.GROUND_CREW_DRY: _("The ground is dry, and its clean-up crew dies."),
    FindingCode.GROUND_CREW_HUNGRY: _("The clean-up crew has no leaf litter to live in and on."),
    FindingCode.GROUND_SHALLOW: _("Ground is %(value)s deep; %(low)s is the least."),
    FindingCode.GROUND_DEEP: _("Ground is %(value)s deep; %(high)s is the most."),
    FindingCode.HEAT_BASKING_COLD: _("Basking surface reaches only %(value)s in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_BASKING_HOT: _("Basking surface reaches %(value)s in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_WARM_AIR_COLD: _("Warm end reaches only %(value)s in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_WARM_AIR_HOT: _("Warm end reaches %(value)s in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_COOL_AIR_COLD: _("Cool end is only %(value)s by day in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_COOL_AIR_HOT: _("Cool end is %(value)s by day in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_NIGHT_COLD: _("Night falls to %(value)s at the cool end in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_NIGHT_WARM_END_COLD: _("Night falls to %(value)s at the warm end in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_NIGHT_COOL_END_WARM: _("Night stays at %(value)s at the cool end in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_NIGHT_WARM: _("Night stays at %(value)s at the warm end in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_CEILING: _("Air reaches %(value)s on a %(season)s %(phase)s: above %(high)s is dangerous for this animal."),
    FindingCode.HEAT_NO_THERMOSTAT: _("The %(watts)s %(kind)s has no thermostat."),
    FindingCode.HEAT_WRONG_THERMOSTAT: _("A %(control)s thermostat does not suit a %(kind)s."),
    FindingCode.HEAT_TOO_CLOSE: _("The %(kind)s hangs %(gap)s above what the animal stands on: it can burn."),
    FindingCode.HEAT_NO_MAT: _(
        "By your school it is warmed from below, and there is no mat: the ground over it should reach %(wanted)s."
    ),
    FindingCode.HEAT_LAMP_TOO: _("By your school it is warmed from below: the %(kind)s of %(watts)s over it is not asked for."),
    FindingCode.HEAT_OVER_MAT_COLD: _("The ground over the mat reaches only %(value)s in %(season)s; %(low)s is the least."),
    FindingCode.HEAT_OVER_MAT_HOT: _("The ground over the mat reaches %(value)s in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_MAT_HOT: _("Under the ground the mat reaches %(value)s on a %(season)s %(phase)s; %(high)s is the most."),
    FindingCode.HEAT_BACK_HOT: _("On the basking spot its back can reach %(value)s in %(season)s; %(high)s is the most."),
    FindingCode.HEAT_HOLDER: _("The %(watts)s %(kind)s sits in a holder for %(limit)s: it can melt or burn."),
    FindingCode.HEAT_IN_WATER: _(
        "The %(kind)s hangs at %(value)s where the water stands %(high)s deep: electricity in water kills. Pull its plug before "
        "a hand goes in; only what is made for water may touch it. Ask a licensed electrician."
    ),
    FindingCode.HEAT_UNGUARDED: _("The %(kind)s is within reach and has no guard."),
    FindingCode.HEAT_LIGHT_AT_NIGHT: _("The %(kind)s shines at night."),
    FindingCode.HEAT_SMALL_PATCH: _("The warm patch is %(value)s across; the body is %(low)s long."),
    FindingCode.UV_MISSING: _("No UVB where the book asks for %(low)s–%(high)s at the back."),
    FindingCode.UV_NOT_WANTED: _("UV index %(value)s at the back, though your school is no UVB."),
    FindingCode.UV_WEAK: _("UV index %(value)s at the back; %(low)s is the least."),
    FindingCode.UV_STRONG: _("UV index %(value)s at the back; %(high)s is the most."),
    FindingCode.UV_BEHIND_GLASS: _("The tube is behind glass or plastic: no UVB passes."),
    FindingCode.UV_AGE_UNKNOWN: _("When was the %(kind)s fitted? It loses UVB unseen."),
    FindingCode.UV_OLD: _("The %(kind)s is %(age)s old; it is good for %(life)s."),
    FindingCode.UV_AT_NIGHT: _("The UV lamp is on at night."),
    FindingCode.UV_NO_SHADE: _("Even the darkest place has a UV index of %(value)s."),
    FindingCode.UV_HOURS_FEW: _("UV for %(value)s a day only: by your school it is there for most of the day."),
    FindingCode.UV_HOURS_MANY: _("UV for %(value)s a day: a session lasts an hour or so, once or twice."),
    FindingCode.UV_SESSIONS_SHORT: _("UV for %(value)s a day: %(low)s is the least at which a session does any good."),
    FindingCode.UV_COVERS_LITTLE: _("Only %(value)s of the length is under UV."),
    FindingCode.UV_COVERS_MUCH: _("%(value)s of the length is under UV; leave more shade."),
    FindingCode.LIGHT_APART: _("It is brightest, or most UV, %(value)s away from the basking spot: it will look for warmth there."),
    FindingCode.LIGHT_HOURS: _("%(value)s of light a day; %(low)s to %(high)s are wanted."),
    FindingCode.LIGHT_YEAR: _("On %(day)s the light will be on for %(value)s; %(low)s to %(high)s are wanted while it is awake."),
    FindingCode.MOISTURE_DRY: _("Air at the cool end is at %(value)s on a %(season)s %(phase)s; %(low)s is the least."),
    FindingCode.MOISTURE_WET: _("Air at the cool end is at %(value)s on a %(season)s %(phase)s; %(high)s is the most."),
    FindingCode.MOISTURE_HIDE_DRY: _("The damp hide holds %(value)s only on a %(season)s %(phase)s; %(low)s is the least."),
    FindingCode.MOISTURE_HIDE_WET: _(
        "The damp hide holds %(value)s on a %(season)s %(phase)s; %(high)s is the most: it goes mouldy."
    ),
    FindingCode.MOISTURE_NO_HUMID_HIDE: _("There is no humid hide."),
    FindingCode.MOISTURE_NO_BOWL: _("There is no water."),
    FindingCode.ANIMAL_TOO_OLD: _("It would be %(years)s years old; none of its kind is known to have reached %(oldest)s."),
    FindingCode.ANIMAL_STAGE_UNKNOWN: _(
        "How old, how heavy or how long is it? Until that is known the plan is for the youngest stage."
    ),
    FindingCode.ANIMAL_STAGE_DISPUTED: _(
        "Age, weight and length point to different stages (%(said)s); the plan goes by the %(leads)s."
    ),
    FindingCode.ANIMAL_LENGTH_UNKNOWN: _("How long is it? Some space rules go by body length."),
    FindingCode.ANIMAL_COMPANY: _("%(count)s animals together; the book says: %(rule)s."),
    FindingCode.ANIMAL_BETTER_ALONE: _("%(count)s animals together may go well; the book says: %(rule)s."),
    FindingCode.ANIMAL_TOO_MANY: _("%(count)s animals together; %(most)s are the most."),
    FindingCode.ANIMAL_SEXES_UNKNOWN: _("How many of them are male? At most %(most)s may be: %(when)s."),
    FindingCode.ANIMAL_MALES: _("%(males)s males together; at most %(most)s: %(when)s."),
    FindingCode.ANIMAL_YOUNG: _("%(young)s hatchlings with grown ones: they are bitten, starved or eaten."),
    FindingCode.ANIMAL_EATEN: _("The smallest is %(share)s as long as the largest; below %(least)s it may be eaten."),
    FindingCode.ANIMAL_NOT_HATCHED: _("It hatched on %(day)s, which is still to come."),
    FindingCode.ANIMAL_MASS_UNLIKELY: _("It weighs %(value)s, where about %(expected)s would be expected."),
    FindingCode.ANIMAL_LENGTH_UNLIKELY: _("It is %(value)s long (%(measure)s); %(expected)s is the longest of its kind."),
    FindingCode.DIET_STARVING: _("Its food holds %(value)s a week, less than it burns at rest (%(low)s)."),
    FindingCode.DIET_EATS_LITTLE: _("Its food comes to %(value)s of its body mass a day; %(low)s is the least for its kind."),
    FindingCode.DIET_EATS_MUCH: _("Its food comes to %(value)s of its body mass a day; %(high)s is the most for its kind."),
    FindingCode.DIET_FATTENING: _("Its food holds %(value)s a week; beyond %(high)s it grows fat."),
    FindingCode.DIET_CALCIUM_SHORT: _(
        "The week's food has %(value)s of calcium to phosphorus, %(low)s is the least: %(dust)s more plain calcium a week."
    ),
    FindingCode.DIET_CALCIUM_SHORT_FOOD: _(
        "The week's food has %(value)s of calcium to phosphorus, %(low)s is the least: other food, or dust it."
    ),
    FindingCode.DIET_CALCIUM_MUCH: _("The week's food has %(value)s of calcium to phosphorus: more powder than it needs."),
    FindingCode.DIET_D3_MUCH: _("All powders together give %(value)s of vitamin D3 in the dry food; %(high)s is a cautious cap."),
    FindingCode.DIET_A_MUCH: _("All powders together give %(value)s of vitamin A in the dry food; %(high)s is a cautious cap."),
    FindingCode.DIET_A_LITTLE: _(
        "The week's food holds %(value)s of vitamin A that it can use, in the dry food; %(low)s is the least: dust with a"
        " multivitamin that holds retinol (vitamin A itself), or give other food. Eyes or skin that look ill are a veterinarian's."
    ),
    FindingCode.DIET_FIBRE_LITTLE: _(
        "%(value)s of fibre in the dry food; %(low)s is the least for a plant eater: more hay and weeds."
    ),
    FindingCode.DIET_PROTEIN_MUCH: _("%(value)s of protein in the dry food; %(high)s is the most for a plant eater."),
    FindingCode.DIET_FRUIT_MUCH: _("%(value)s of what it eats is fruit; %(high)s is the most."),
    FindingCode.DIET_FATTY: _("%(share)s of its insects are fatty ones: a treat, not a diet."),
    FindingCode.DIET_OXALATE: _("%(share)s of its greens are rich in oxalate, which takes the calcium: a leaf now and then."),
    FindingCode.DIET_GOITROGEN: _(
        "%(share)s of its greens are of the cabbage kind, which slow the thyroid where iodine is short; its powders bring"
        " %(iodine)s into the dry food, and %(wanted)s would make it good. Mix in other greens."
    ),
    FindingCode.DIET_THIAMINASE: _(
        "%(share)s of its animal food is fish that destroys vitamin B1: feed other fish and worms, or give %(thiamin)s of"
        " thiamin a week with it."
    ),
    FindingCode.DIET_UNDUSTED: _("Nothing goes on its food; the book asks for %(product)s."),
    FindingCode.DIET_ONE_PREY: _("It lives on %(food)s alone: give two or three kinds in turn."),
    FindingCode.DIET_PREY_HEAVIER: _("One %(food)s is heavier than the animal itself. Check the figures."),
    FindingCode.DIET_PREY_LARGE: _("The %(food)s is %(by)s, measured at %(most)s."),
    FindingCode.DIET_PREY_LARGE_ESTIMATE: _("The %(food)s is %(by)s, about %(most)s by its length. Measure it."),
    FindingCode.DIET_WASTED: _("A condition of 1 is wasting: a reptile veterinarian, before any change of food."),
    FindingCode.DIET_OBESE: _("A condition of 5 is obesity: slim it down slowly, with a reptile veterinarian."),
    FindingCode.DIET_THIN: _("It is thin, and your own ration stands in the way of feeding it up."),
    FindingCode.DIET_FAT: _("It is fat, and your own ration stands in the way of feeding it less."),
    FindingCode.DIET_NO_REST_EVER: _("A winter rest is planned for a kind that is never cooled: %(why)s."),
    FindingCode.DIET_NO_REST_KNOWN: _(
        "A winter rest is planned, and the book does not say whether its kind may be cooled. Ask a reptile veterinarian first."
    ),
    FindingCode.DIET_NO_REST_WHEN_YOUNG: _("No rest for a young animal: it is planned all the same."),
    FindingCode.DIET_NO_REST_WHEN_NEW: _(
        "No rest through a season in its first half year here, and none before a vet has looked at it."
    ),
    FindingCode.DIET_NO_REST_WHEN_THIN: _("No rest for a thin animal: it is planned all the same."),
    FindingCode.DIET_REST_LOSING: _(
        "It has lost %(lost)s of its weight at rest; at %(limit)s %% the rest is broken off. Weigh it more often."
    ),
    FindingCode.DIET_REST_LOST: _(
        "It has lost %(lost)s of its weight at rest, and %(limit)s %% is the limit: warm it up over some days and let "
        "a reptile veterinarian see it."
    ),
    FindingCode.FEED_TOO_OFTEN: _("Every %(value)s; the stage is fed every %(low)s to %(high)s."),
    FindingCode.FEED_TOO_SELDOM: _("Every %(value)s; the stage is fed every %(low)s to %(high)s."),
}
REMEDIES: Final[dict[RemedyCode, Any]] = {
    RemedyCode.NONE_TRIED: _("No single change that was tried does away with this without making something else worse."),
    RemedyCode.NONE_DANGER: _(
        "No single change that was tried mends this: keep the animal elsewhere until it is built or heated otherwise."
    ),
    RemedyCode.HEAT_TAKE_WATTS: _("Take %(watts)s in place of %(now)s"),
    RemedyCode.HEAT_OUT_OF_WATER: _("Pull its plug, then take the %(kind)s out"),
    RemedyCode.HEAT_TAKE_AWAY: _("Take the %(watts)s %(kind)s away"),
    RemedyCode.HEAT_INSULATE: _("Put %(thick)s of foam board outside, clear of lamps and vents"),
    RemedyCode.HEAT_PLATFORM_AT: _("Lower what it stands on to %(height)s above the ground"),
    RemedyCode.MOISTURE_COVER_LID: _("Cover %(share)s %% of the lid with glass or acrylic, clear of every lamp"),
    RemedyCode.MOISTURE_COVER_AND_MIST: _(
        "Cover %(share)s %% of the lid with glass or acrylic, clear of every lamp, and mist %(grams)s g a day in %(season)s"
    ),
    RemedyCode.MOISTURE_UNCOVER_LID: _("Uncover the lid"),
    RemedyCode.UV_TAKE_TUBE: _("Take a %(kind)s in its place"),
    RemedyCode.UV_PLATFORM_AT: _("Raise what it basks on to %(height)s above the ground"),
    RemedyCode.UV_TAKE_OTHER: _("Take in its place, %(length)s long, %(height)s above the floor: %(kind)s"),
    RemedyCode.UV_TAKE_LENGTH: _("Take a tube of %(length)s of the same kind, %(height)s above the floor"),
    RemedyCode.SPACE_TAKE_MINIMUM: _("Take the minimum size"),
    RemedyCode.SPACE_GO_BY: _("Plan by that school"),
    RemedyCode.LAYING_BOX: _(
        "Give her a box of moist ground that deep, or deepen a part. Digging for days without laying: a reptile veterinarian."
    ),
    RemedyCode.QUARANTINE_ON_PAPER: _("Keep it apart until %(day)s, on paper, damp if its ground was"),
    RemedyCode.QUARANTINE_UNTIL: _("Keep it apart until %(day)s"),
    RemedyCode.SPACE_PLAN_NEXT: _("Plan for at least %(length)s × %(width)s × %(height)s, the size it keeps."),
    RemedyCode.MEASURED_LEARN: _("Let the plan go by its readings (page “Readings”), mend what it then finds, and measure again."),
    RemedyCode.WATER_FILL: _("Fill it with water"),
    RemedyCode.WATER_DEEPER: _("Fill to %(depth)s"),
    RemedyCode.WATER_SET_DEPTH: _("Fill to %(depth)s"),
    RemedyCode.WATER_LARGER: _("Take a larger tank; this one cannot hold so much."),
    RemedyCode.WATER_ADD_HEATER: _("Hold the water at %(set)s with a %(watts)s water heater"),
    RemedyCode.WATER_ADD_CHILLER: _("Hold the water at %(set)s with a %(watts)s chiller"),
    RemedyCode.WATER_SET: _("Hold the water at %(set)s day and night"),
    RemedyCode.WATER_FAN: _("Put a fan over the water"),
    RemedyCode.WATER_HEAT: _("Add a guarded water heater on a thermostat, or warm the room."),
    RemedyCode.WATER_COOL: _("Cool it before summer: a chiller, a fan over the water, a cooler room."),
    RemedyCode.SPACE_COVER: _("Cover it with mesh"),
    RemedyCode.SPACE_INSIDE: _("Bring the %(part)s inside"),
    RemedyCode.SPACE_LOWER_HIDE: _("Make it %(most)s high"),
    RemedyCode.WATER_CHANGE: _("Set the days between changes of water to %(days)s"),
    RemedyCode.WATER_FILTER: _("Put in a filter that has run for weeks; until then change part of the water every day"),
    RemedyCode.SPACE_PERCH_THICK: _("Take one %(wanted)s thick"),
    RemedyCode.SPACE_STEPS: _("Put steps beside the %(part)s: wood, stone or a bank of ground, each no higher than it climbs"),
    RemedyCode.SPACE_LOWER_PERCH: _("Bring the %(part)s down by %(lower)s"),
    RemedyCode.SPACE_ASIDE: _("Put the %(part)s at %(place)s from the left, away from the lamp"),
    RemedyCode.SPACE_BRANCH_TO: _("Put a branch from the ground up to the %(part)s"),
    RemedyCode.SPACE_LOWER_STEP: _("Make the %(part)s %(most)s high"),
    RemedyCode.SPACE_CLOSE_GAP: _("Close the gap %(gap_at)s"),
    RemedyCode.SPACE_BANK_UP: _("Bank the ground up towards the back: %(rise)s higher there than at the door"),
    RemedyCode.SPACE_LESS_GROUND: _("Use less ground, or set a higher lip in front of it"),
    RemedyCode.SPACE_FROM_DOOR: _("Take the %(part)s away from what opens"),
    RemedyCode.SPACE_OUT_OF_GROUND: _("Make it %(wanted)s tall"),
    RemedyCode.SPACE_DARKEN: _("Darken it: one small opening, no window"),
    RemedyCode.SPACE_COVER_SIDES: _("Cover the back and both ends from outside"),
    RemedyCode.MOISTURE_MIST_TWICE: _("Mist %(grams)s g of water on the leaves, after lights on and before lights off"),
    RemedyCode.PLANT_INSTEAD: _("Plant this in its place: %(plant)s"),
    RemedyCode.PLANT_CUT_BACK: _("Cut it back before it reaches the lid or a lamp."),
    RemedyCode.PLANT_OUT: _("Take the %(plant)s out"),
    RemedyCode.PLANT_IN_POT: _("Leave the %(plant)s in its pot, and water that"),
    RemedyCode.SPACE_LARGER_HIDE: _("Take a hide %(low)s long"),
    RemedyCode.SPACE_WIDER_OPENING: _("Widen its opening to %(low)s"),
    RemedyCode.SPACE_FOOTING: _("Stand the %(part)s on footings that reach the enclosure's own floor"),
    RemedyCode.SPACE_OF_STONE: _("Take the %(part)s in %(stuff)s"),
    RemedyCode.SPACE_MOVE: _("Move the %(part)s to %(place)s from the left, %(front)s from the front"),
    RemedyCode.MOISTURE_WIDER_BOWL: _("Take a bowl %(low)s across"),
    RemedyCode.MOISTURE_SHALLOWER_BOWL: _("Fill it to %(high)s at most"),
    RemedyCode.MOISTURE_DEEPER_BOWL: _("Take a bowl %(rim)s high and fill it to %(wanted)s"),
    RemedyCode.MOISTURE_FILL_BOWL: _("Fill it to %(wanted)s"),
    RemedyCode.GROUND_LITTER: _("Lay leaf litter on top"),
    RemedyCode.GROUND_PAPER: _("Lay paper, damp if the ground was"),
    RemedyCode.SPACE_ADD_SHELTERS: _("Add all of them"),
    RemedyCode.SPACE_ADD_LITTER: _("Add leaf litter on top, %(depth)s deep"),
    RemedyCode.SPACE_ADD_BRANCH: _("Add a branch"),
    RemedyCode.SPACE_ADD_COVER: _("Add leaves to hide among"),
    RemedyCode.SPACE_ADD_HIDE: _("Add a hide"),
    RemedyCode.GROUND_SET_DEPTH: _("Fill to %(depth)s"),
    RemedyCode.GROUND_LAY: _("In place of paper lay %(kind)s, %(depth)s deep"),
    RemedyCode.HEAT_ADD_BASKING_HEATER: _("Add a lamp over the basking spot for %(wanted)s."),
    RemedyCode.HEAT_ADD_THERMOSTAT: _("Put it on a %(control)s thermostat at %(wanted)s"),
    RemedyCode.HEAT_SET_THERMOSTAT: _("Set its thermostat to %(wanted)s"),
    RemedyCode.HEAT_CHANGE_THERMOSTAT: _("Use a %(control)s thermostat"),
    RemedyCode.HEAT_HANG_AT: _("Hang it at %(height)s above the floor"),
    RemedyCode.HEAT_HANG_ALL_AT: _("Hang the lamps over the basking spot at %(height)s above the floor"),
    RemedyCode.HEAT_STRONGER_LAMP: _("Use a stronger lamp than %(watts)s, or a narrower beam."),
    RemedyCode.HEAT_WEAKER_LAMP: _("Use a weaker lamp than %(watts)s."),
    RemedyCode.HEAT_COOL_THE_ROOM: _("The room itself is too warm: at %(room)s or less at that time it would hold."),
    RemedyCode.HEAT_MOVE_WARM_AIR_UP: _("More watts or less loss: cover part of a mesh lid, or insulate."),
    RemedyCode.HEAT_MOVE_WARM_AIR_DOWN: _("Fewer watts, or more air through the lid."),
    RemedyCode.HEAT_MOVE_COOL_AIR_UP: _("Insulate, or warm the room."),
    RemedyCode.HEAT_MOVE_COOL_AIR_DOWN: _("A longer enclosure, fewer watts, or more air at the cool end."),
    RemedyCode.HEAT_ADD_DAY_HEATER: _("Add a %(watts)s %(kind)s held at %(set)s at the warm end"),
    RemedyCode.HEAT_ADD_COOL_END_HEATER: _("Add a %(watts)s %(kind)s held at %(set)s over the cool end, by day"),
    RemedyCode.HEAT_ADD_WARM_END_NIGHT_HEATER: _("Add a %(watts)s %(kind)s held at %(set)s over the warm end, by night"),
    RemedyCode.HEAT_ADD_NIGHT_HEATER: _("Add a %(watts)s %(kind)s held at %(set)s at the cool end"),
    RemedyCode.HEAT_STRONGER_HEATER: _("Take a %(watts)s heater in its place"),
    RemedyCode.HEAT_HOLD_BY_NIGHT: _("Let the %(kind)s hold %(set)s by night"),
    RemedyCode.HEAT_HOLD_BY_DAY: _("Let the %(kind)s hold %(set)s at the warm end by day"),
    RemedyCode.HEAT_LESS_NIGHT_HEAT: _("Lower the night heater's set point, or move its probe to the warm end."),
    RemedyCode.HEAT_LESS_HEAT: _("Switch heat off now; then fewer watts and a thermostat."),
    RemedyCode.HEAT_ADD_MAT: _(
        "Lay a mat of %(watts)s under %(length)s of the warm end, its probe on it, on a pulse thermostat; air under the enclosure."
    ),
    RemedyCode.HEAT_SET_MAT: _("Set the mat's thermostat to %(wanted)s"),
    RemedyCode.HEAT_MAT_ALONE: _(
        "A mat alone does not warm it enough in this room: a warmer room, foam board outside the walls, or heat from above as well."
    ),
    RemedyCode.HEAT_LESS_GROUND: _("Only %(depth)s of ground over the mat"),
    RemedyCode.HEAT_MAT_THERMOSTAT: _("Its probe on the mat, less ground over it, no flat hide on it, or fewer watts."),
    RemedyCode.HEAT_HOLDER_WATTS: _("Take at most %(limit)s"),
    RemedyCode.HEAT_GUARD: _("Fit a guard"),
    RemedyCode.HEAT_LOWER_PLATFORM: _("Lower what it stands on."),
    RemedyCode.HEAT_ONLY_BY_DAY: _("Run it from %(on)s to %(off)s"),
    RemedyCode.HEAT_SIDE_BY_SIDE: _("Hang %(count)s lamps of %(watts)s side by side, %(apart)s apart, in its place"),
    RemedyCode.HEAT_SIDE_BY_SIDE_HELD: _(
        "Hang %(count)s lamps of %(watts)s side by side, %(apart)s apart, in its place, on thermostats at %(wanted)s"
    ),
    RemedyCode.HEAT_TWO_WEAKER_LAMPS: _("Two weaker lamps side by side warm the whole body without burning the back."),
    RemedyCode.UV_ADD_LAMP: _("Hang at %(height)s above the floor: %(kind)s"),
    RemedyCode.UV_NO_REACHABLE_LAMP: _("No tube in the list reaches the band from inside this enclosure."),
    RemedyCode.UV_HANG_AT: _("Hang it at %(height)s above the floor"),
    RemedyCode.UV_HANG_INSIDE: _("Hang the UV inside, below the lid, %(height)s above the floor"),
    RemedyCode.UV_HANG_ALL_AT: _("Hang all UV tubes at %(height)s above the floor"),
    RemedyCode.UV_STRONGER_COMBINED: _("This lamp warms as well: a tube beside it, or a basking spot nearer to it, gives more UV."),
    RemedyCode.UV_WEAKER_COMBINED: _(
        "This lamp warms as well: hang it higher or lower the basking spot, then check the warmth again."
    ),
    RemedyCode.UV_STRONGER_LAMP: _("Use a stronger tube, or raise the basking spot."),
    RemedyCode.UV_WEAKER_LAMP: _("Use a weaker tube, or lower the basking spot."),
    RemedyCode.UV_TAKE_GLASS_AWAY: _("Move it inside or under mesh"),
    RemedyCode.UV_REPLACE: _("Fitted a new one today"),
    RemedyCode.UV_MAKE_SHADE: _("Leave one end without a lamp, or give it dense cover."),
    RemedyCode.UV_TWICE: _("Burn it %(on)s–%(off)s and %(again_on)s–%(again_off)s"),
    RemedyCode.UV_ALL_DAY: _("Burn it %(on)s–%(off)s"),
    RemedyCode.UV_LONGER_TUBE: _("A longer tube."),
    RemedyCode.UV_SHORTER_TUBE: _("A shorter tube, or cover at the cool end."),
    RemedyCode.LIGHT_BRING_TOGETHER: _("Hang the brightest lamp and the tube over the basking spot."),
    RemedyCode.LIGHT_UNTIL: _("Lights off at %(off)s"),
    RemedyCode.LIGHT_ALL_YEAR: _("The same light all year, off at %(off)s"),
    RemedyCode.LIGHT_NATIVE: _("Days as in its native range"),
    RemedyCode.MOISTURE_MIST: _("Mist %(grams)s g a day in %(season)s"),
    RemedyCode.MOISTURE_MIST_STOP: _("Stop misting in %(season)s"),
    RemedyCode.MOISTURE_DAMP_GROUND: _("Keep the ground damp below"),
    RemedyCode.MOISTURE_DRY_GROUND: _("Let the ground dry"),
    RemedyCode.MOISTURE_FEWER_PLANTS: _("Take some of the plants out: their leaves give the water"),
    RemedyCode.MOISTURE_NO_PLANTS: _("Take the plants out: their leaves give the water"),
    RemedyCode.MOISTURE_AIR_LESS: _("Cover part of the lid or mist at set times; more water alone does not hold here."),
    RemedyCode.MOISTURE_MOISTEN_ROOM: _(
        "Moisten the air of the room, or give a humid hide and a wider bowl: here nothing is gained by misting."
    ),
    RemedyCode.MOISTURE_DRY_THE_ROOM: _("The room's own air would be at %(room)s there: dry the room, or warm the cool end."),
    RemedyCode.MOISTURE_AIR_MORE: _("More air and less water, until it dries between."),
    RemedyCode.MOISTURE_AIR_A_LITTLE: _("A little more air, or a little less water."),
    RemedyCode.MOISTURE_CUT_VENTS: _(
        "With the animal out, cut two vents of %(area)s each, one at %(low)s, one opposite at %(high)s, clear of cables, and put "
        "mesh over them"
    ),
    RemedyCode.MOISTURE_WIDER_VENTS: _("Widen each vent to %(share)s %% of its area"),
    RemedyCode.MOISTURE_SMALLER_VENTS: _("Close each vent down to %(share)s %% of its area"),
    RemedyCode.MOISTURE_WET_MOSS: _("Wet the moss more often, and close the hide but for its door."),
    RemedyCode.MOISTURE_DRY_MOSS: _("Wring the moss out, and give the hide a second hole."),
    RemedyCode.MOISTURE_ADD_HUMID_HIDE: _("Add a hide with damp moss"),
    RemedyCode.MOISTURE_ADD_BOWL: _("Add a bowl"),
    RemedyCode.ROOM_OUT_OF_SUN: _("Move it out of the sun, or shade the window for good"),
    RemedyCode.ANIMAL_KEEP_ALONE: _("Plan for one"),
    RemedyCode.ANIMAL_KEEP_MOST: _("Plan for %(most)s"),
    RemedyCode.ANIMAL_MALES_APART: _("Keep the other males elsewhere, out of sight."),
    RemedyCode.ANIMAL_YOUNG_APART: _("Raise the young apart"),
    RemedyCode.ANIMAL_SORT_BY_SIZE: _("Part them by size today."),
    RemedyCode.ANIMAL_FORGET_HATCHED: _("Leave the date open"),
    RemedyCode.ANIMAL_MEASURED_WHOLE: _("The tail was measured with it: %(meant)s %(measure)s"),
    RemedyCode.ANIMAL_MEANT: _("%(meant)s was meant"),
    RemedyCode.DIET_BOOKS_RATION: _("Go by the book's ration"),
    RemedyCode.DIET_BOOKS_POWDERS: _("Go by the book's powders"),
    RemedyCode.DIET_NO_REST: _("Leave the rest out this winter"),
    RemedyCode.FEED_STAGE_INTERVAL: _("Go by the stage's rule"),
}
