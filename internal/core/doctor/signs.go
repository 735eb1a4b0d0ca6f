package doctor

// The questions that come up more than once.
var (
	howDry = Question{"dry", "How dry is it?", []Answer{{"little", "a little: cracks at the edge"}, {"very", "very: crumbs, dust, no mass"}}}
	howWet = Question{"wet", "How wet is it?", []Answer{{"little", "a little: it clings to the hand"}, {"very", "very: it smears on the board"}}}
	rested = Question{"rested", "How long has it rested?", []Answer{{"short", "less than the plan says"}, {"enough", "as long as the plan says"}}}
	feels  = Question{"feels", "How does it feel?", []Answer{{"dry", "dry and dusty"}, {"tight", "smooth, but tight"}, {"wet", "damp, tacky"}}}
)

// The remedies that come up more than once.
var (
	littleDry = Cause{If: "dry=little", Why: "A little too dry: drier air or thirstier flour than reckoned.", Act: Water, Points: FeelPoints,
		Do: "Wet your hands and knead in {amount}, a minute’s kneading between.", Expect: "It slides for half a minute, then takes it up and turns smooth.", Stop: "Stop when it no longer cracks at the edge, even if some is left."}
	veryDry = Cause{If: "dry=very", Why: "Much too dry: flour by the cup, small eggs, or very dry air.", Act: Water, Points: 2 * FeelPoints,
		Do: "Work in {amount}, pressing the crumbs together, a minute’s kneading between.", Expect: "Crumbs gather to one mass within the first two goes.", Stop: "Stop when it holds in one piece; the rest makes it supple."}
	littleWet = Cause{If: "wet=little", Why: "A little too wet: damp air, or eggs on the large side.", Act: Flour, Points: FeelPoints,
		Do: "Work in {amount} from what was held back, kneading each in first.", Expect: "It lets go of the hand after a minute.", Stop: "Stop as soon as it comes off the board clean: too much makes it dry after the rest."}
	veryWet = Cause{If: "wet=very", Why: "Much too wet: eggs counted, not weighed, or a purée not squeezed.", Act: Flour, Points: 2 * FeelPoints,
		Do: "Work in {amount}, the scraper under it, kneading each in first.", Expect: "Smeary, then tacky, then it lifts off the board.", Stop: "Stop at tacky: it dries a shade while it rests."}
)

// Signs returns everything a maker may see, in the order of work.
func Signs() []Sign {
	return []Sign{
		{Key: "well-broke", Name: "The well broke", Stages: []string{"formula", "room", "knead"}, Look: "well", Words: "egg runs flows out wall leak",
			Causes: []Cause{{Why: "Walls too low, or flour drawn in too fast from outside.", Do: "Dam it with the scraper, scrape the egg back in, rebuild the wall and stir from inside.", Expect: "A batter that no longer runs.", Stop: "Once it is batter the wall does not matter."}}},
		{Key: "lumps", Name: "Lumps of dry flour", Stages: []string{"knead"}, Look: "crumbs", Words: "lumpy knots pebbles",
			Causes: []Cause{{Why: "Flour fell in all at once, or was not sifted.", Do: "Chop it through with the scraper, then press the lumps flat under the palm.", Expect: "They soak and vanish in two or three minutes.", Stop: "Pick out what stays hard after five."}}},
		{Key: "sandy", Name: "Sandy, gritty", Stages: []string{"knead", "rest", "roll"}, Look: "crumbs", Words: "grit coarse semolina",
			Questions: []Question{rested},
			Causes: []Cause{{If: "rested=short", Why: "Coarse flour has not taken its water up yet.", Act: Rest, Minutes: 20, Do: "Wrap it and wait {amount} more.", Expect: "The grit goes; it feels softer though nothing was added.", Stop: "If it is still gritty after an hour, it is dry, not slow."},
				{If: "rested=enough", Why: "Too dry for a coarse flour.", Act: Water, Points: FeelPoints, Do: "Knead in {amount}, then rest it again.", Expect: "Smooth after the second rest.", Stop: "Stop when a pinch no longer crumbles."}}},
		{Key: "apart", Name: "It won’t come together", Stages: []string{"knead"}, Look: "crumbs", Words: "crumbly loose shaggy dry mass",
			Questions: []Question{howDry},
			Causes:    []Cause{{Why: "Not long enough yet: it nearly always comes together.", Act: Knead, Minutes: 2, Do: "Press, don’t rub: {amount} more before anything is added.", Expect: "The crumbs stick to each other.", Stop: "Then decide by feel."}, littleDry, veryDry}},
		{Key: "cracks", Name: "Cracks when flexed", Stages: []string{"knead", "rest"}, Look: "cracks", Words: "edge splits dry flex",
			Questions: []Question{howDry},
			Causes:    []Cause{littleDry, veryDry, {Why: "Kneaded too little: the commonest fault.", Act: Knead, Minutes: 3, Do: "Knead {amount} more.", Expect: "It bends without a crack.", Stop: "If it still cracks after five, it is dry."}}},
		{Key: "sticks", Name: "Sticks to hand and board", Stages: []string{"knead", "roll"}, Look: "sticks", Words: "sticky wet tacky clings smears",
			Questions: []Question{howWet},
			Causes:    []Cause{littleWet, veryWet, {Why: "Warm: egg fat and hands soften it.", Act: Rest, Minutes: 10, Do: "Wrap it, ten minutes in the fridge, then go on.", Expect: "Firmer and dry to the touch.", Stop: "If it sticks again when cool, it is wet."}}},
		{Key: "hard", Name: "Hard, will not give", Stages: []string{"knead", "rest", "roll"}, Look: "lump", Words: "stiff tough firm rock",
			Questions: []Question{rested, howDry},
			Causes: []Cause{{If: "rested=short", Why: "Tense from kneading: it softens by itself.", Act: Rest, Minutes: 15, Do: "Under the bowl, {amount}.", Expect: "It gives to the thumb.", Stop: "If it is as hard after half an hour, it is dry or cold."},
				{Why: "Cold from the fridge: fat and gluten are stiff.", Act: Rest, Minutes: 20, Do: "Wrapped, {amount} in the room; fifteen if divided.", Expect: "Like an earlobe.", Stop: "Not past the food clock."}, littleDry, veryDry}},
		{Key: "snaps-back", Name: "Snaps back, pulls in", Stages: []string{"rest", "roll"}, Look: "spring", Words: "elastic shrinks springs retracts",
			Causes: []Cause{{Why: "Tension: too short a rest, or worked since.", Act: Rest, Minutes: 10, Do: "Cover this piece {amount} and go on with the next.", Expect: "It stays where it is rolled.", Stop: "Twice is enough; after that it is a strong flour: roll a stop thicker."}}},
		{Key: "first-pass", Name: "Falls apart in the first pass", Stages: []string{"roll"}, Look: "ragged", Words: "shreds crumbles widest stop",
			Questions: []Question{feels},
			Causes: []Cause{{Why: "Normal in yolk dough and after a short kneading: the folds bring it together.", Do: "Fold the shreds in three and pass it again, four or five times at the widest stop.", Expect: "Whole by the fourth pass.", Stop: "If the sixth is still in shreds, it is dry."},
				{If: "feels=dry", Why: "Too dry.", Act: Water, Points: StepPoints, Do: "Mist it with {amount} in all, fold, wait five minutes, pass it again.", Expect: "Edges join.", Stop: "One misting a piece."},
				{If: "feels=tight", Why: "Fed too thick or not rested.", Act: Rest, Minutes: 10, Do: "Press it thinner and wait {amount}.", Expect: "It goes in without a push.", Stop: ""}}},
		{Key: "tears", Name: "Tears, holes in the sheet", Stages: []string{"roll"}, Look: "hole", Words: "rips hole split",
			Questions: []Question{feels},
			Causes: []Cause{{Why: "A stop skipped: the step was too large for this dough.", Do: "Fold it, go back two stops, and take every one.", Expect: "The hole closes in the fold.", Stop: "If it tears at the same stop again, end a stop thicker."},
				{If: "feels=tight", Why: "Still tense.", Act: Rest, Minutes: 10, Do: "Cover it {amount}.", Expect: "It stretches instead of tearing.", Stop: ""},
				{If: "feels=dry", Why: "A skin, or dry flour rolled in.", Do: "Brush it, mist it lightly, fold it in, pass it again wide.", Expect: "The specks go.", Stop: "What is hard is cut off."}}},
		{Key: "ragged", Name: "Ragged edges", Stages: []string{"roll"}, Look: "ragged", Words: "uneven frayed sides",
			Causes: []Cause{{Why: "Too few folds, or dry edges.", Do: "Fold it to the roller’s width, open side last, and pass it twice more at the widest stop.", Expect: "Straight edges.", Stop: "They are trimmed anyway."}}},
		{Key: "tapers", Name: "Tapers, wanders, wrinkles", Stages: []string{"roll"}, Look: "taper", Words: "narrow crooked one side wrinkle bunch",
			Causes: []Cause{{Why: "Fed askew or narrower than the roller; wrinkles: held back or too wet.", Do: "Fold it square, feed it straight from the middle, support what comes out with the back of the hand.", Expect: "It fills the width.", Stop: "A taper at the tail alone is trimmed."}}},
		{Key: "wraps", Name: "Wraps round the roller", Stages: []string{"roll"}, Look: "wrap", Words: "stuck roller winds",
			Questions: []Question{howWet},
			Causes:    []Cause{{Why: "Damp outside, or a stop too fine too early.", Do: "Stop, open the gap, lift it off with a floured scraper; dust both faces; go back a stop. Fingers away from moving rollers.", Expect: "It drops clear.", Stop: "Never pull at it while it turns."}, littleWet, veryWet}},
		{Key: "weld", Name: "Ribbons weld together", Stages: []string{"cut", "dry", "cook"}, Look: "weld", Words: "stick clump strands",
			Causes: []Cause{{Why: "Cut too moist, or undusted.", Do: "Shake them apart with semola now; let the next sheet dry to leather first.", Expect: "They fall loose when lifted.", Stop: "What has welded is chopped as maltagliati."}}},
		{Key: "not-through", Name: "The cutter does not cut through", Stages: []string{"cut"}, Look: "cutter", Words: "joined uncut comb",
			Causes: []Cause{{Why: "Sheet too thick for the cutter, or too moist.", Do: "Roll the next one a stop finer, or let it dry three minutes more. Try a strip first.", Expect: "Ribbons part by themselves.", Stop: "Pull what hangs together apart by hand; do not force the crank."}}},
		{Key: "mats", Name: "The cutter mats it", Stages: []string{"cut"}, Look: "weld", Words: "tangle felt mash",
			Causes: []Cause{{Why: "Sheet too thin or too moist for the cutter.", Do: "A stop thicker, drier, dusted; clear the cutter dry with a brush, unplugged.", Expect: "Clean ribbons.", Stop: "Matted dough goes back into the next piece, a fifth at most."}}},
		{Key: "brittle", Name: "Brittle, edges crack", Stages: []string{"dry", "cut"}, Look: "cracks", Words: "snap break dried",
			Causes: []Cause{{Why: "Past the window: the edge has dried.", Do: "Cover it with a barely damp cloth for ten minutes, then cut.", Expect: "The edge bends again.", Stop: "What snaps is soup pasta."}}},
		{Key: "grey", Name: "Greying", Stages: []string{"rest"}, Look: "lump", Words: "dark discoloured colour green",
			Causes: []Cause{{Why: "Time and air: harmless past a day, but it shows.", Do: "Use it today; wrap the next one airtight.", Expect: "It cooks up paler.", Stop: "Throw it away if it smells sour, is slimy, or is past 48 hours."}}},
		{Key: "specks", Name: "Specks", Stages: []string{"rest", "roll"}, Look: "specks", Words: "spots dots bran black",
			Causes: []Cause{{Why: "Bran or yolk membrane; dried bits scraped in from the board.", Do: "Sieve the yolks and the board crumbs next time; this one is sound.", Expect: "They stay.", Stop: "Furry or coloured spots are mould: throw it away."}}},
		{Key: "skin", Name: "A skin has formed", Stages: []string{"rest", "roll", "dry"}, Look: "skin", Words: "dry crust surface hard edge",
			Causes: []Cause{{Why: "Not wrapped airtight.", Act: Rest, Minutes: 15, Do: "Pare off what is hard; rub the rest with wet hands, wrap it tight, {amount}.", Expect: "The skin softens in.", Stop: "Hard flakes never roll out: cut them off."}}},
		{Key: "interrupted", Name: "Interrupted: it waited", Stages: []string{"knead", "rest", "roll", "cut", "dry"}, Look: "clock", Words: "phone forgot left waited cold break pause",
			Questions: []Question{{Key: "minutes", Text: "For how many minutes?"}, {"lay", "How did it lie?", []Answer{{"wrapped", "wrapped, in the room"}, {"open", "uncovered"}, {"cold", "in the fridge"}}}},
			Causes: []Cause{{If: "lay=wrapped", Why: "It has rested: softer than planned, and more relaxed.", Do: "Knead it three turns to wake it and go on; it rolls easily, dust a little more.", Expect: "Soft, and no spring.", Stop: ""},
				{If: "lay=open", Why: "It has a skin.", Act: Rest, Minutes: 15, Do: "Pare off what is hard, rub with wet hands, wrap it, {amount}.", Expect: "The skin softens in.", Stop: "Hard flakes are cut off."},
				{If: "lay=cold", Why: "It is stiff with cold.", Act: Rest, Minutes: 20, Do: "Still wrapped, {amount} in the room; fifteen if divided.", Expect: "Like an earlobe.", Stop: ""}}},
		{Key: "bursts", Name: "Filled pasta bursts or opens", Stages: []string{"cut", "cook"}, Look: "burst", Words: "ravioli leaks seam open filling",
			Causes: []Cause{{Why: "Air inside, a dry seam, or flour in it.", Do: "Press the air out from the middle, damp the seam, press it twice; cook at a simmer, not a boil.", Expect: "Flat seams that stay shut.", Stop: "A wet filling weeps: drain it or add crumbs."}}},
		{Key: "falls", Name: "Soft and falls apart in the pot", Stages: []string{"cook"}, Look: "ragged", Words: "mush boil dissolves",
			Causes: []Cause{{Why: "Cooked too long, or too little gluten.", Do: "Taste from the early end; stir once, gently. Next time a binder or a thicker sheet.", Expect: "", Stop: ""}}},
	}
}
