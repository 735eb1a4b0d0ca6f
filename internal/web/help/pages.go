package help

// about explains a page: what it is for, where its figures come from, and the keys of its words in the glossary.
type about struct {
	Of    string // the page’s name, of a batch with its station after a point
	Name  string
	Says  string
	From  string // "" where it has no figures of its own
	Words []string
}

// explainedAs are pages that another’s words explain.
var explainedAs = map[string]string{"thing": "cabinet", "rooms": "cabinet", "makings": "made", "logform": "made",
	"besidemade": "made", "again": "new", "week": "orders", "besideday": "day", "ways": "day", "setout": "day",
	"slips": "orders", "customers": "orders", "customer": "orders",
	"dayown": "day",
	"phone":  "day", "beside": "compare", "versions": "compare"}

// explanations are the pages that have something to explain.
var explanations = []about{
	{"today", "Today", "One sentence asks, and the answer follows as you fill it in; nothing is saved until you " +
		"open it. Below stand what is at the bench, what is due today, and what was made lately.",
		"The answer is a whole plan, for the air the house is set to. Flour moves a little here, so that eggs " +
			"go in whole.",
		[]string{"stop", "working-hydration", "in-hand"}},
	{"batches", "Batches", "Every batch there is, the one changed last first. Find one by its name, shape, " +
		"flour or machine; Duplicate makes it again for another day.", "", []string{"batch"}},
	{"new", "New batch", "One amount, a shape, a flour, eggs and a machine: the rest is worked out. Or say your " +
		"own amounts, and nothing is moved.",
		"All else starts from what House says, and can be changed at its station.", []string{"batch",
			"working-hydration"}},
	{"batch.formula", "Formula", "What goes into the bowl. Change any amount and everything follows; other ways " +
		"to the same dough stand below, each with one key.",
		"The aim is the working hydration this flour and machine roll well at. Eggs and water are the fewest " +
			"that meet it.", []string{"working-hydration", "band", "absorption", "top-up", "held-back", "beaten",
			"learned"}},
	{"batch.room", "Room", "What the air of the day does to the flour, and what to pour for it.",
		"Moisture follows from humidity, temperature and how the flour was kept, by published sorption figures; " +
			"a lot you have weighed counts more.", []string{"moisture", "by-the-board", "held-back", "lot"}},
	{"batch.knead", "Knead", "Minutes and steps until the dough is ready. Five schools stand side by side under " +
		"More.",
		"Development grows with work and flour, tension with it; the minutes are the least after which both are " +
			"right.",
		[]string{"development", "school", "relaxation"}},
	{"batch.rest", "Rest", "How long, where, and what fits into the time. Say when you want to roll, and it is " +
		"counted back.", "Relaxation is slower in the cold and in a strong dough. A poke tells your own.",
		[]string{"relaxation", "poke", "learned"}},
	{"batch.roll", "Roll", "The stops to go through, with folds, and how long the sheet gets.",
		"Each pass takes as much as this dough gives easily; thickness is the gap and what the sheet springs back.",
		[]string{"stop", "gap", "pass", "reduction", "fold", "sheet"}},
	{"batch.cut", "Cut", "What comes from a sheet, to scale: ribbons and nests, or pieces and their filling. " +
		"Further shapes share the dough.", "Sheets, trims and trimmings are counted as they fall.",
		[]string{"ribbon", "nest", "trimmings"}},
	{"batch.dry", "Dry", "Nothing dries unless you say so. When it cuts cleanly, holds a nest, cracks; and how " +
		"long it keeps.", "Water leaves by the air’s dryness and by the thickness; keeping goes by the " +
		"strictest part of it.",
		[]string{"leather", "window"}},
	{"batch.cook", "Cook", "When to taste, by how it goes in. The tooth decides.",
		"Minutes grow with the thickness and with drying; water and salt by what is in the pot.", []string{"sheet",
			"learned"}},
	{"batch.doctor", "Something wrong?", "Pick what you see. At most two questions, then the causes in order, " +
		"each with the act measured for this batch.", "", []string{"development", "relaxation", "reduction"}},
	{"made", "A making", "What was done beside what was planned, in time and as a table.",
		"Every tap is kept with its moment; what was not said counts as planned.", []string{"batch", "learned"}},
	{"days", "Days", "Each day with its batches and orders. Any day can be opened, also one gone by.", "", nil},
	{"day", "A day", "Who does what when, to scale. Tap a bar to move it, or drag it; what cannot be is refused " +
		"with the nearest that can.", "The plan is the best found for orders in time, food that does not wait, " +
		"and a short day.",
		[]string{"in-hand", "give-or-take"}},
	{"orders", "Orders", "Type or paste what is wanted; those for the same come from one dough.", "", []string{
		"in-hand"}},
	{"log", "The log", "What was made, newest first. Each can be opened, and logged further.", "", []string{
		"learned"}},
	{"learned", "What is learned", "Each correction with what stands behind it. One batch, one flour or all of " +
		"it can be left out.", "What you said of how doughs felt, and what was weighed and timed, set against " +
		"the book.",
		[]string{"learned", "give-or-take", "working-hydration"}},
	{"ledger", "Ledger", "What went in and what came out, over any days.", "", []string{"trimmings"}},
	{"recipes", "Recipes", "What we make, apart from the day we make it. Found as typed, by its name or another it " +
		"is " +
		"asked by.", "A recipe holds no day, no room, no lot and no maker: a batch of it has its own.", nil},
	{"recipepage", "A recipe", "Make it: so much, for a day. It is changed at its stations, as a batch is worked " +
		"out, " +
		"or by taking what a batch has otherwise into it.",
		"What is made at the maker’s word keeps its ratios: whole eggs lead, " +
			"nothing is added.", nil},
	{"recipegather", "Keep what you make",
		"Batches that say the same at one amount stand together. Tick what you make " +
			"again and again.", "Nothing is guessed; batches, days and orders stay as they are.", nil},
	{"recipekeep", "Keep as a recipe", "The batch as it is saved, without its day.", "", nil},
	{"recipeinto", "Into the recipe, too", "Tick what the recipe is to have from now on.", "", nil},
	{"recipecompare", "Compare", "A recipe beside another, or beside itself as it was, made for as many.", "", nil},
	{"recipenewer", "The recipe has changed", "What the newer version would change here. What the batch has changed " +
		"itself stays.", "", nil},
	{
		"practice",
		"Practice",
		"The judgement calls on a dough nobody can see into: what you see, what now, and afterwards " +
			"what it really was. Six calls take three minutes.",
		"The dough is made of a real plan, with what a real day gets " +
			"wrong drawn at random; the log’s factors are the middle. Nothing of it goes back into the log.",
		[]string{"poke", "leather", "development"},
	},
	{
		"round",
		"A dough to practise on",
		"Look, then press the key of what you would do. 1 to 5 press it, ← and → alter its " +
			"amount, l looks closer, space goes on.",
		"Each answer is judged by what could be known from the signs, not by how " +
			"it ended: a good call can end badly.",
		[]string{"poke", "working-hydration", "leather"},
	},
	{
		"opened",
		"A dough, opened",
		"How it really was, beside what you felt of it; each call with what the signs meant.",
		"",
		[]string{"development", "relaxation", "working-hydration"},
	},
	{
		"lumps",
		"Three lumps",
		"A sheet to print: three small doughs, dry, right and wet, to knead beside each other.",
		"",
		[]string{"working-hydration", "poke"},
	},
	{"cabinet", "The cabinet", "What the kitchen has: flours, lots, eggs, additions, machines, shapes, ways, " +
		"rooms. A batch keeps the figures it was made with.", "", []string{"absorption", "lot", "gap", "school"}},
	{"calibrate", "A machine measured", "Sheets you measured tell its stops; a few tell the others.",
		"The line through your measures, with its give or take.", []string{"gap", "stop", "give-or-take"}},
	{"sack", "What a sack holds",
		"Its moisture today, with how sure that is, and what would help to know it better. Weigh " +
			"it when flour is taken and before it is taken again; dry a sample once.",
		"From the air that was read since it was opened, typed with batches or by a sensor; what you measure " +
			"replaces that.",
		[]string{"moisture", "lot", "give-or-take"}},
	{"doughs", "Three small doughs",
		"What this sack wants more than the book, by three doughs of which only the water " +
			"differs. Worth one batch and its word, where the first one must not fail.",
		"The words go into the log as one look: points of this sack, never its absorption.",
		[]string{"working-hydration",
			"give-or-take", "learned"}},
	{"foretold", "A sheet to try it by", "Each figure with the range it is foretold to fall in, nine times in ten, " +
		"and room " +
		"for what it was. Type it in at its making, then print the next.",
		"The book, and what this kitchen has measured so far.", []string{"leather", "give-or-take", "learned"}},
	{"recipe", "From a recipe text", "Paste a recipe: it is read, weighed and judged; make a batch of it.",
		"Cups and spoons weigh between a low and a high; the middle is shown.", []string{"hydration",
			"working-hydration"}},
	{"compare", "Compare", "Two batches, or one on two days, with every reason.", "", nil},
}
