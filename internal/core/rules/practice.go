package rules

// PracticeLevel is how much of a day is off. Source: house.
type PracticeLevel struct {
	Spread float64 // times each deviation's spread
	Slip   float64 // chance of an egg or a cup miscounted
	Noise  float64 // times each sign's spread
	One    bool    // one thing is off, clearly; the rest is as good as right
	Sure   float64 // how sure the best answer of a fair drill is at least, 0–1
}

// PracticeSign is how far a sign is spread, where its words part, and the weights of its value. Source: house.
type PracticeSign struct {
	SD   float64
	Cuts []float64
	By   []float64
}

// PracticeLoss is what is lost of a hundred points. Source: house.
type PracticeLoss struct {
	Water, WaterFree, WaterPower, WaterMost float64 // 4·max(0,|dev|−.8)^1.2, at most 30
	Knead, KneadD, KneadMost                float64 // a development short of .90
	Sheet, SheetFree, SheetMost             float64 // of |ln(mm/aim)|
	Hole                                    float64
	Flakes, FlakesFree, FlakesMost          float64
	Tense                                   float64
	Weld, Brittle                           float64
	Bite, HardFree, SoftFree, BiteMost      float64 // of ln(s/s needed)
	Gram, GramsMost                         float64 // of waste
	Minute, Hand                            float64 // over the plan's
	Caution, Discard                        float64
}

// Practice rules: a dough to practise on, what goes wrong with it, its signs and what is lost.
type Practice struct {
	// Levels are one thing off, a usual day, a hard day. Source: house.
	Levels [3]PracticeLevel
	// MoistureSD is how far the flour's moisture may be off, share wet basis; AbsorptionSD its absorption, %. Source:
	// house.
	MoistureSD, AbsorptionSD float64
	// EggSD, EggCountedSD and ScaleSD are the egg in a bowl that was weighed, one that was counted, and the flour on
	// the
	// scale, shares. Source: house.
	EggSD, EggCountedSD, ScaleSD float64
	// RoomRH and RoomC are how far the room may be off, share and °C. Source: house.
	RoomRH, RoomC float64
	// HandSD, RelaxSD, DrySD, CookSD and GapSD are of the logarithms of a minute's work, of the relaxation time, of
	// the minutes on the rack, of the seconds in the pot and of every gap. Source: house.
	HandSD, RelaxSD, DrySD, CookSD, GapSD float64
	// SlipLow and SlipHigh are an egg or a cup miscounted, points of hydration. Source: house.
	SlipLow, SlipHigh float64
	// OneLow and OneHigh are how many spreads off the one thing is, OneRest what is left of the others. Source: house.
	OneLow, OneHigh, OneRest float64
	// Focus is times the spread of what a drill is about. Source: house.
	Focus float64
	// LeastPoints is what good work keeps of every dough that is given, points of 100. Source: house.
	LeastPoints float64
	// TiredMin is how long hands knead before they tire, and how fast they do, min; TiredBack what a minute of rest
	// gives back, min. Source: house.
	TiredMin, TiredBack float64
	// FilmMin and SkinMin are the work that takes in fresh water or flour, and a skin, min. Source: house.
	FilmMin, SkinMin float64
	// SkinGM2 is the water lost of a face that makes a skin, g/m². Source: house.
	SkinGM2 float64
	// ParedLeft is what paring leaves of a skin, share; ParedG what it takes off, g; ParedMin and ParedRestMin how
	// long it takes and how long the dough then lies wrapped, min. Source: house.
	ParedLeft, ParedG, ParedMin, ParedRestMin float64
	// FoldMin, PassMin, AddMin, CutMin and MixMin are how long they take, min; LookMin and WindowMin a look. Source:
	// house.
	FoldMin, PassMin, AddMin, CutMin, MixMin, LookMin, WindowMin float64
	// FoldSkin is what a fold leaves of a skin, share. Source: house.
	FoldSkin float64
	// LumpMM is how thick the piece is before its first pass, mm. Source: house.
	LumpMM float64
	// TearAt and TearSD are how far over easy a pass tears half the time, and its spread, shares; SkinTears what a
	// skin over SkinFree adds. Source: house.
	TearAt, TearSD, SkinTears, SkinFree float64
	// StickAt is how wet a bare dough sticks half the time, points; StickDust what dust adds to it, StickWarm what
	// each °C over StickC takes off, StickSD its spread. Source: house.
	StickAt, StickDust, StickWarm, StickC, StickSD float64
	// StickG and TearG are what a sheet that sticks or tears costs, g; StickMin how long freeing it takes, min;
	// DustPass the dust a pass takes off. Source: house.
	StickG, TearG, StickMin, DustPass float64
	// WeldAt is the loss at which ribbons no longer weld, share; WeldDev what a point too wet adds, WeldSD its spread,
	// WeldDust what dust leaves of it. Source: house.
	WeldAt, WeldDev, WeldSD, WeldDust float64
	// BrittleSD is the spread of the loss at which ribbons snap, share. Source: house.
	BrittleSD float64
	// Pull is how much thicker a ribbon of a sheet tenser than PullAt pulls in, no unit. Source: house.
	Pull, PullAt float64
	// Persist is the share of a sign's variance that stays with the dough: asking again does not average it away.
	// Source: house.
	Persist float64
	// Again is what a sign asked again weighs of a first look, no unit. Source: house.
	Again float64
	// Feel: development of crumbs, water not taken up, film, skin, and each °C over the sixth. Source: house.
	Feel PracticeSign
	// Surface: dryness under the second. Source: house.
	Surface PracticeSign
	// Spring: the part tension has in it. Source: house.
	Spring PracticeSign
	// Flex: at the aim, what short kneading under the third adds, skin. Source: house.
	Flex PracticeSign
	// Stick: water not taken up, film, each °C over the fourth. Source: house.
	Stick PracticeSign
	// Window: the development it opens at, its slope, dryness under the fourth. Source: house.
	Window PracticeSign
	// Poke: seconds at tension 1, what short kneading under the third adds. Source: house.
	Poke PracticeSign
	// Give: tension, each °C under the third. Source: house.
	Give PracticeSign
	// Skin has no weights. Source: house.
	Skin PracticeSign
	// Edges: short kneading under the second, dryness under the fourth, skin, each fold after the first. Source: house.
	Edges PracticeSign
	// Leaves of paper; its cuts are worked out. Source: house.
	Leaves PracticeSign
	// Seen through: its cuts are those of Roll. Source: house.
	Seen PracticeSign
	// Leather: the loss it is at the least taken at. Source: house.
	Leather PracticeSign
	// Tooth has no weights. Source: house.
	Tooth PracticeSign
	// Lost is what is lost of a hundred points. Source: house.
	Lost PracticeLoss
	// OtherMin and OtherHandsMin are the plan's minutes beside kneading and rest, and of them the hands', min. Source:
	// house.
	OtherMin, OtherHandsMin float64
	// Pool is how many doughs that could be this one a call is judged on, Beside how many go along with a batch,
	// Tried how many of these each option is tried on; Draws how often tearing is drawn. Source: house.
	Pool, Beside, Tried, Draws int
	// EitherPoints is under what regret either answer was right, points. Source: house.
	EitherPoints float64
	// AgainstPoints is from what regret of the answer without a look on a drill speaks against it, points. Source:
	// house.
	AgainstPoints float64
	// FairDraws is how many drills are drawn for a fair one. Source: house.
	FairDraws int
	// GoodD, GoodRestMin, GoodT, GoodFoldD and GoodLoss are where good work stops: kneading, the least rest, rest,
	// folding, drying; GoodOver how much thicker than the aim it goes one stop finer. Source: house.
	GoodD, GoodRestMin, GoodT, GoodFoldD, GoodLoss, GoodOver float64
	// GoodHandsMin is when good work stops kneading all the same, min of the hands. Source: house.
	GoodHandsMin float64
	// GoodRests, GoodFolds and GoodWaits are the most rests of five minutes, folds and minutes on the rack it takes.
	// Source: house.
	GoodRests, GoodFolds, GoodWaits int
	// DampShare is what a damp cloth of DampMin gives back, share of the mass and min. Source: house.
	DampShare, DampMin float64
	// HalfDays is in how many days what is known of a call halves, days. Source: house.
	HalfDays float64
	// KnownAt and SureAt are how much must be seen before a word is said and before it is "sure", marks; SureShare of
	// what the doctor's table gets. Source: house.
	KnownAt, SureAt, SureShare float64
	// Guess is how wide close, fair and rough are, ± of the logarithm. Source: house.
	Guess [3]float64
	// GuessShare is how often a guess should be inside, 0–1. Source: house.
	GuessShare float64
	// Stories is how many makings a planted fault is known from. Source: house.
	Stories int
	// StoryShare is how much of a day is off beside it, share. Source: house.
	StoryShare float64
	// AskAt is how likely its signs must make it, 0–1. Source: house.
	AskAt float64
	// MostActs is how many acts a dough takes. Source: house.
	MostActs int
	// LogMoments is how many moments of the own log a sitting needs. Source: house.
	LogMoments int
	// LumpFlourG is the flour of each of three lumps to knead, g. Source: house.
	LumpFlourG float64
	// LumpPoints is how far each of them is off, points. Source: house.
	LumpPoints [3]float64
	// HandFlourG is the most flour practised on as it is, g, and ScaledFlourG what more is scaled to, g. Source: house.
	HandFlourG, ScaledFlourG float64
}

// practice is the shipped value.
func practice() Practice {
	return Practice{
		Levels:     [3]PracticeLevel{{1, 0, .6, true, .80}, {1, .08, 1, false, .60}, {1.4, .15, 1.4, false, .45}},
		MoistureSD: .007, AbsorptionSD: 2.5, EggSD: .01, EggCountedSD: .03, ScaleSD: .008, RoomRH: .08, RoomC: 2,
		HandSD: .25, RelaxSD: .30, DrySD: .30, CookSD: .20, GapSD: .08,
		SlipLow: 3, SlipHigh: 8, OneLow: 1.3, OneHigh: 2.3, OneRest: .25, Focus: 1.6, LeastPoints: 80,
		TiredMin: 12, TiredBack: 3, FilmMin: .7, SkinMin: 4, SkinGM2: 40,
		ParedLeft: .15, ParedG: 12, ParedMin: 2, ParedRestMin: 15,
		FoldMin: .4, PassMin: .35, AddMin: .3, CutMin: 3, MixMin: 5, LookMin: .25, WindowMin: .4,
		FoldSkin: .8, LumpMM: 18.4,
		TearAt: .06, TearSD: .04, SkinTears: .25, SkinFree: .1,
		StickAt: 3.2, StickDust: 1.5, StickWarm: .15, StickC: 26, StickSD: .8,
		StickG: 6, TearG: 8, StickMin: .5, DustPass: .35,
		WeldAt: .020, WeldDev: .002, WeldSD: .005, WeldDust: .35, BrittleSD: .012, Pull: .12, PullAt: .30,
		Persist: .6, Again: .4,
		Feel:    PracticeSign{.75, []float64{-1.9, -.6, .6, 1.9}, []float64{3, 1.5, 1.5, 2, .15, 28}},
		Surface: PracticeSign{.18, []float64{.1823215567939546, .7419373447293773}, []float64{.10, 1.5}},
		Spring:  PracticeSign{.06, []float64{.60, .82}, []float64{.30}},
		Flex:    PracticeSign{.8, []float64{0}, []float64{1.8, 8, .85, 4}},
		Stick:   PracticeSign{.8, []float64{1.6, 4}, []float64{1.8, 1.5, .2, 27}},
		Window:  PracticeSign{1, []float64{0}, []float64{.87, .05, .5, 3}},
		Poke:    PracticeSign{.25, []float64{.9, 1.2, 1.7, 2.4, 3.4, 4.8, 6.8}, []float64{.75, 1.5, .80, .02}},
		Give:    PracticeSign{.8, []float64{.8, 2.6}, []float64{2.2, .3, 16}},
		Skin:    PracticeSign{.07, []float64{.12, .45}, nil},
		Edges:   PracticeSign{.25, []float64{.35, 1.1}, []float64{7, .90, .35, 1.5, 3, .12}},
		Leaves:  PracticeSign{.06, nil, nil},
		Seen:    PracticeSign{.10, nil, nil},
		Leather: PracticeSign{.20, []float64{.024, .085}, []float64{.002}},
		Tooth:   PracticeSign{.12, []float64{-.15, .20}, nil},
		Lost: PracticeLoss{4, .8, 1.2, 30, 120, .90, 25, 70, .08, 25, 12, 30, .10, 20, 20, 30, 25, 60, .12, .30, 25,
			.2, 15, .12, .35, 15, 100},
		OtherMin: 20, OtherHandsMin: 12,
		Pool: 150, Beside: 120, Tried: 50, Draws: 2, EitherPoints: .3, AgainstPoints: .25, FairDraws: 60,
		GoodD: .88, GoodRestMin: 20, GoodT: .25, GoodFoldD: .90, GoodLoss: .032, GoodOver: 1.14,
		GoodHandsMin: 40, GoodRests: 8, GoodFolds: 8, GoodWaits: 40, DampShare: .02, DampMin: 10,
		HalfDays: 21, KnownAt: 5, SureAt: 8, SureShare: .85,
		Guess: [3]float64{.10, .25, .60}, GuessShare: .8,
		Stories: 250, StoryShare: .5, AskAt: .6, MostActs: 400, LogMoments: 5,
		LumpFlourG: 50, LumpPoints: [3]float64{-3, 0, 3},
		HandFlourG: 800, ScaledFlourG: 400,
	}
}
