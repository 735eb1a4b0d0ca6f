// Package rules holds every house rule: the starting values a practised pasta maker
// would accept, which no table or standard settles. Each is an estimate. It is shown
// no finer than it is and a workshop's own log may correct it.
//
// Values that are settled by physics or by published tables (egg composition, sorption
// coefficients, densities) live beside the sums that use them, not here.
package rules

// Rules is one complete set of house rules. Default returns the shipped set; a copy may
// be changed freely, since every sum takes its Rules as an argument.
type Rules struct {
	Flour     Flour
	Room      Room
	Hydration Hydration
	Eggs      Eggs
	Dough     Dough
	Knead     Knead
	Roll      Roll
	Cut       Cut
	Dry       Dry
	Cook      Cook
	Safety    Safety
	Bench     Bench
	Day       Day
	Learn     Learn
	Measure   Measure
	Practice  Practice `json:"-"` // a dough to practise on keeps them itself; a making has no use for them
	Learned   Learned  // nothing, unless a log says something of the batch at hand
}

// Flour rules: how moisture moves between flour and air.
type Flour struct {
	// BasisMoistureWB is the moisture all flour figures are brought to, share wet basis. Source: milling trade usage,
	// 14 %.
	BasisMoistureWB float64
	// MilledMoistureWB is the moisture of a fresh bag, share wet basis. Source: house, European mills.
	MilledMoistureWB float64
	// MilledUSMoistureWB is the same where the eggs are sold by US sizes, share wet basis. Source: house, US mills.
	MilledUSMoistureWB float64
	// DriftTubDays is the time constant of 1 kg in a sealed tub, days. Source: house.
	DriftTubDays float64
	// DriftBagDays is the time constant of 1 kg in a folded paper bag, days. Source: house.
	DriftBagDays float64
	// DriftBinDays is the time constant of 1 kg in an open bin, days. Source: house.
	DriftBinDays float64
	// DriftSiftedDays is the time constant of 1 kg sifted and spread, days. Source: house.
	DriftSiftedDays float64
	// DriftMassPower is the power of the mass in kg that scales the time constants, no unit. Source: surface to volume.
	DriftMassPower float64
	// EstimateLowWB is the lowest moisture believed without a measurement, share wet basis. Source: house.
	EstimateLowWB float64
	// EstimateHighWB is the highest moisture believed without a measurement, share wet basis. Source: house.
	EstimateHighWB float64
	// MeasuredSD is the standard deviation up to which a moisture counts as measured and stands alone, share wet basis.
	// Source: house.
	MeasuredSD float64
	// GlutenFragile is the gluten factor under which a sheet is fragile, 0–1. Source: house.
	GlutenFragile float64
	// GlutenNoSheet is the gluten factor under which no machine sheet holds without a binder, 0–1. Source: house.
	GlutenNoSheet float64
	// ProteinBasePct is the protein all gluten terms are measured from, % of flour. Source: house.
	ProteinBasePct float64
}

// doughBridge is the variance of a small dough against a big one, points².
const doughBridge = .25

// Measure rules: how sure what a kitchen measures of its flour, eggs and air is. All spreads are standard deviations.
type Measure struct {
	// StartSD is how far the moisture a mill says, or the house takes, may be off, share wet basis. Source: house.
	StartSD float64
	// SorptionSD is how far the sorption table may be off, share wet basis. Source: standard error of its fit.
	SorptionSD float64
	// SensorRH is how far a room sensor may be off, share. Source: usual sensors.
	SensorRH float64
	// TauShare is how far the time constants may be off, share. Source: house.
	TauShare float64
	// BridgeRH is how far air that nobody measured may be off, share. Source: house.
	BridgeRH float64
	// HoleHours is the longest hole in readings that is bridged straight, h. Source: house.
	HoleHours float64
	// HoleDays is the longest hole bridged from the days beside it, days; longer, the named room stands for it. Source:
	// house, by simulation.
	HoleDays float64
	// TypedHours is how much a sensor's reading may lie beside a typed one and beat it, h. Source: house.
	TypedHours float64
	// SunC is the temperature over which a sensor stands in the sun, °C. Source: house.
	SunC float64
	// SunOverC is how much over the same hour of other days it does, °C. Source: house.
	SunOverC float64
	// MostADay is the most a closed sack's moisture is believed to change in a day, share wet basis. Source: house.
	MostADay float64
	// OvenSD is how far the oven's method is off beside the scale, share wet basis. Source: house.
	OvenSD float64
	// AbsorptionSDPct is how far the absorption of a flour by the table may be off, %. Source: house.
	AbsorptionSDPct float64
	// SheetSDPct is how far one by the miller's sheet may be, %. Source: house.
	SheetSDPct float64
	// BatchWordVar is the variance of what one batch's word says of its flour, points². Source: house, by simulation.
	BatchWordVar float64
	// SittingVar is the variance of what three small doughs say of their flour, points². Source: house, by simulation.
	SittingVar float64
	// EggSD is how far an egg is off its tray's mean, g edible. Source: house, within the class bands.
	EggSD float64
	// TraySD is how far a tray's mean is off its class's, g edible. Source: house.
	TraySD float64
	// DoughWordVar is the variance of one word of a small dough, points². Source: the log's noise, house.
	DoughWordVar float64
	// DoughWeighVar is the variance by weighing a small dough on a .1 g scale, points². Source: reckoned.
	DoughWeighVar float64
	// DoughSittingVar is the variance all doughs of a sitting share, points². Source: the log's noise, house.
	DoughSittingVar float64
	// DoughBridgeVar is the variance of a small dough against a big one, points². Source: house.
	DoughBridgeVar float64
	// DoughStepShare is how much people's words differ in width, share. Source: house.
	DoughStepShare float64
	// DoughSlip is how often a word is just any, share. Source: house.
	DoughSlip float64
}

// Room rules: how the room's correction is split between bowl and board.
type Room struct {
	// PourShare is the share of the room's correction poured at once while moisture is only estimated, 0–1. Source:
	// house.
	PourShare float64
	// BoardAreaM2 is the wet face of a 500 g dough while it is kneaded, m². Source: house.
	BoardAreaM2 float64
	// BoardDoughPerFlour is the dough mass per flour mass used to scale that face, g/g. Source: house.
	BoardDoughPerFlour float64
	// BoardRefMassG is the dough mass that face belongs to, g. Source: house.
	BoardRefMassG float64
	// BoardSeconds is how long the face is open to the air, s. Source: house.
	BoardSeconds float64
	// HeldBackShare is the flour kept out of the well at first, share of flour. Source: house.
	HeldBackShare float64
}

// Hydration rules: what the maker steers by and the bands to steer into.
type Hydration struct {
	// FatWeight is how many points of water one point of fat feels like, points per point. Source: house.
	FatWeight float64
	// AbsorptionWeight is the target's answer to absorption, points per %. Source: house.
	AbsorptionWeight float64
	// AbsorptionBasePct is the absorption the bases are given for, %. Source: house.
	AbsorptionBasePct float64
	// FineWidthMM is the ribbon width under which a firmer dough is wanted, mm. Source: house.
	FineWidthMM float64
	// FineShift is that firmer dough's shift, points. Source: house.
	FineShift float64
	// FilledShift is the shift for filled shapes, points. Source: house.
	FilledShift float64
	// YolkShift is the shift of an all-yolk dough, points at yolk share 1. Source: house.
	YolkShift float64
	// YolkWord is how much drier than its figure an all-yolk dough is to the hand, points at yolk share 1: fat sets
	// firm. The word counts it, the figure does not. Source: house.
	YolkWord float64
	// Roller is the band for a roller machine, points of working hydration. Source: house.
	Roller Band
	// Pin is the band for a rolling pin, points of working hydration. Source: house.
	Pin Band
	// Sheeter is the band for a powered sheeter, points of working hydration. Source: house.
	Sheeter Band
}

// Band is a base and how far each side of it still feels right, points of working hydration.
type Band struct {
	// Base is the target for flour of base absorption, points. Source: house.
	Base float64
	// Under is how far below the target the band reaches, points. Source: house.
	Under float64
	// Over is how far above the target the band reaches, points. Source: house.
	Over float64
	// Firm is how far below the band each of three words reaches: firm, very firm, stiff, points; beyond there is no
	// sheet. Source: house.
	Firm [3]float64
	// Soft is how far above the band each of three words reaches: soft, very soft, clings, points; beyond there is no
	// sheet. Source: house.
	Soft [3]float64
}

// Eggs rules: what makes one answer of the egg solver better than another.
type Eggs struct {
	// RichLow is the least yolk share of the rich style, share of egg mass. Source: house.
	RichLow float64
	// RichHigh is the greatest yolk share of the rich style, share of egg mass. Source: house.
	RichHigh float64
	// RichNominal is the yolk share the rich style aims at, share of egg mass. Source: house.
	RichNominal float64
	// WholeWaterShare is the part of the liquid given by eggs in the whole-and-water style, 0–1. Source: house.
	WholeWaterShare float64
	// MaxTopShare is the most top-up liquid, share of flour. Source: house.
	MaxTopShare float64
	// MinTopShare is the least top-up worth weighing, share of flour. Source: house.
	MinTopShare float64
	// MaxFlourShare is the most flour moved to suit whole eggs, share of flour. Source: house.
	MaxFlourShare float64
	// Tolerance is the distance from the target that counts as met, points. Source: house.
	Tolerance float64
	// ShareFree is the distance from the nominal yolk share that costs nothing, share. Source: house.
	ShareFree float64
	// ShareStep is the distance from the nominal yolk share that costs 1, share. Source: house.
	ShareStep float64
	// TopCost is the cost of top-up, per % of flour. Source: house.
	TopCost float64
	// FlourCost is the cost of moved flour, per % of flour. Source: house.
	FlourCost float64
	// OverCost is the cost of flour beyond what is needed, chosen to suit whole eggs, per %. Source: house.
	OverCost float64
	// MaxOver is the most of such flour, share. Source: house.
	MaxOver float64
	// WhitesCost is the cost of whites left over, per g in 100 g of flour. Source: house.
	WhitesCost float64
}

// Dough rules: density, colour and what is lost on the way.
type Dough struct {
	// AirShare is the air in a kneaded dough, share of volume. Source: house.
	AirShare float64
	// FlourFatShare is the fat of flour, share at the 14 % basis. Source: house.
	FlourFatShare float64
	// BowlLossShare is what stays on bowl and board, share of dough. Source: house.
	BowlLossShare float64
	// BoardFlourShare is the dusting flour picked up in rolling, share of dough. Source: house.
	BoardFlourShare float64
}

// Knead rules: the development and relaxation model and the long school's limits.
type Knead struct {
	// W63Min is the work that takes development to 63 %, min of hand kneading. Source: house.
	W63Min float64
	// W63Durum, W63Whole raise that work per share of durum and wholegrain, no unit. Source: house.
	W63Durum, W63Whole float64
	// W63Protein raises it per % of gluten protein over the base. Source: house.
	W63Protein float64
	// W63Dry raises it per point of working hydration under DryHw. Source: house.
	W63Dry float64
	// W63Fat raises it per % of fat over FatFree. Source: house.
	W63Fat float64
	// DryHw is the working hydration under which a dough counts as dry, points. Source: house.
	DryHw float64
	// FatFree is the fat that changes nothing, % of flour. Source: house.
	FatFree float64
	// TauRelaxMin is the relaxation time of tension at 22 °C, min. Source: house.
	TauRelaxMin float64
	// RelaxDurum lengthens it per share of durum; RelaxFat shortens it per % of fat. Source: house.
	RelaxDurum, RelaxFat float64
	// RelaxProtein lengthens it per % of gluten protein over the base. Source: house.
	RelaxProtein float64
	// RelaxFatMax is the fat over FatFree beyond which relaxation gains no more, % of flour. Source: house.
	RelaxFatMax float64
	// TensionMin is the kneading time constant of tension, min of work. Source: house.
	TensionMin float64
	// CreditPerMin is the work a minute of rest is worth at 22 °C, min. Source: house.
	CreditPerMin float64
	// CreditMax is the most work rest can stand in for, min. Source: house.
	CreditMax float64
	// FoldWork is the work of one folded pass, min. Source: house.
	FoldWork float64
	// FoldHandsMin is what a folded pass counts of hands-on kneading when ways are weighed, min. Source: house.
	FoldHandsMin float64
	// FoldTension is the tension folded passes tend to, 0–1. Source: house.
	FoldTension float64
	// RelaxDoubling and UptakeDoubling are the temperature steps that double relaxation and water uptake, °C. Source:
	// house.
	RelaxDoubling, UptakeDoubling float64
	// CoolTauMin is the time constant to the surroundings of a 500 g dough, min. Source: house.
	CoolTauMin float64
	// FlatTauMin is the time constant of a dough pressed flat, min per mm of thickness. Source: house.
	FlatTauMin float64
	// FlatMM is how flat a dough is pressed where nothing else is said, mm. Source: house.
	FlatMM float64
	// ContactRiseC is the warmth mixing by hand gives at once, °C. Source: house.
	ContactRiseC float64
	// FridgeC is the temperature of the fridge, °C. Source: house.
	FridgeC float64
	// ReadyD, ReadyT, ReadyU are the bounds of a dough that is ready to roll, 0–1. Source: house.
	ReadyD, ReadyT, ReadyU float64
	// EnoughD is the development a maker's own way is left alone from where folds or a night come after it, 0–1.
	// Source: house.
	EnoughD float64
	// NightMin is the rest that counts as a night, min. Source: house.
	NightMin float64
	// PinWork is what a minute under the pin works the dough, min of hand kneading. Source: house.
	PinWork float64
	// ColdC is the dough temperature under which it is stiff, °C. Source: house.
	ColdC float64
	// HandHotC is the dough temperature over which kneading by hand pauses, °C. Source: house.
	HandHotC float64
	// LongMinMin and LongMaxMin are the long school's kneading bounds, LongUsualMin its usual minutes, min. Source:
	// house.
	LongMinMin, LongMaxMin, LongUsualMin float64
	// RestMinMin is the least rest, RestMinRichMin the least for all-yolk or durum doughs, RestMinPinMin under a pin,
	// min. Source: house.
	RestMinMin, RestMinRichMin, RestMinPinMin float64
	// RestStepMin is the step of rests, RestMaxMin the longest the solver looks at, min. Source: house.
	RestStepMin, RestMaxMin float64
	// TurnsMin and TurnsMax are how often the school of turns kneads. Source: house.
	TurnsMin, TurnsMax float64
	// TurnMinMin and TurnMaxMin are the minutes of one turn, TurnUsualMin the usual, TurnRestMin the rest between two,
	// min. Source: house.
	TurnMinMin, TurnMaxMin, TurnUsualMin, TurnRestMin float64
	// TurnsColdMinMin and TurnsColdMaxMin bound the hours in the cold that end it, min. Source: house.
	TurnsColdMinMin, TurnsColdMaxMin float64
	// ShortMinMin and ShortMaxMin bound the kneading of the short school, min. Source: house.
	ShortMinMin, ShortMaxMin float64
	// ShortRestMinMin and ShortRestMaxMin bound its rest, min. Source: house.
	ShortRestMinMin, ShortRestMaxMin float64
	// ShortFoldsMin and ShortFoldsMax bound its folded passes. Source: house.
	ShortFoldsMin, ShortFoldsMax float64
	// HookSlowMin is the slow start of a mixer, HookMinMin and HookMaxMin bound what follows, HookUsualMin is usual,
	// min. Source: house.
	HookSlowMin, HookMinMin, HookMaxMin, HookUsualMin float64
	// ProcessorMinMin and ProcessorMaxMin bound the processor's run to clumping sand, min. Source: house.
	ProcessorMinMin, ProcessorMaxMin float64
	// ProcessorHandMinMin and ProcessorHandMaxMin bound the kneading by hand after it, min. Source: house.
	ProcessorHandMinMin, ProcessorHandMaxMin float64
	// MixHandMin and MixMachineMin are the hands-on minutes before kneading starts, min. Source: house.
	MixHandMin, MixMachineMin float64
	// LongFolds is how many folded passes the long school plans. Source: house.
	LongFolds float64
	// OnePersonG is the dough one person kneads at once, g. Source: house.
	OnePersonG float64
	// MachineHotC is the dough temperature over which a machine pauses, °C. Source: house.
	MachineHotC float64
	// TemperPieceMin is how long divided dough stands in the room before it is rolled, min. Source: house.
	TemperPieceMin float64
	// GreyMin is the time after which a dough may grey, KeepMin how long it keeps wrapped in the fridge, min. Source:
	// usual advice.
	GreyMin, KeepMin float64
	// HookSlow is the mixer's first speed: half of the second. Source: house.
	HookSlow Method
	// PokeTenseS is the half recovery of a poke, s, up to which a dough is tense; from PokeReadyS on it is as often
	// relaxed as not, from PokeSureS on it is. Source: house.
	PokeTenseS, PokeReadyS, PokeSureS float64
	// Hand, Hook, Processor are work (min of hand kneading a minute) and heat (°C a minute). Source: house.
	Hand, Hook, Processor Method
}

// Method is a way of kneading.
type Method struct {
	// Work is minutes of hand kneading a minute is worth. Source: house.
	Work float64
	// HeatC is the warmth a minute gives, °C. Source: house.
	HeatC float64
}

// Roll rules: spring-back, easy reductions, pieces and handling.
type Roll struct {
	// SpringBase, SpringTension, SpringDurum make spring-back s = base + tension·T + durum·share, share of gap. Source:
	// house.
	SpringBase, SpringTension, SpringDurum float64
	// ReduceBase is the largest easy reduction of a sound dough, share of the incoming sheet. Source: house.
	ReduceBase float64
	// ReduceShort is taken off per unit of development under ReadyD, ReduceTension per unit of tension over ReadyT.
	// Source: house.
	ReduceShort, ReduceTension float64
	// ReduceRaw is as far down as those two alone bring it, share of the incoming sheet. Source: house.
	ReduceRaw float64
	// ReduceFat is taken off per % of fat over FatFree. Source: house.
	ReduceFat float64
	// ReduceGluten is taken off per unit of missing gluten factor. Source: house.
	ReduceGluten float64
	// ReduceSheeter is added on a powered sheeter. Source: house.
	ReduceSheeter float64
	// ReduceThin is taken off when the gap is under ThinMM. Source: house.
	ReduceThin float64
	// ThinMM is the gap under which a sheet needs more care, mm. Source: house.
	ThinMM float64
	// ReduceBand is taken off per point outside the hydration band. Source: house.
	ReduceBand float64
	// ReduceLow and ReduceHigh clamp the easy reduction, share. Source: house.
	ReduceLow, ReduceHigh float64
	// CarefulOff is what care takes off skips, share. Source: house.
	CarefulOff float64
	// CarefulFatPct is the fat at which skips are taken carefully unless told otherwise, % of flour. Source: house.
	CarefulFatPct float64
	// BoldOver is how far over the easy reduction a skip is bold rather than tearing, share. Source: house.
	BoldOver float64
	// PieceFlourG is the flour in one piece, g; on a wide machine it is more: pressed PieceHighMM thick and as wide as
	// the rollers, a piece is
	// no shorter than PieceLongMM, or they hardly get hold of it, mm. Source: house.
	PieceFlourG, PieceHighMM, PieceLongMM float64
	// PacketGives is how much thicker than the feed limit a folded packet may be: it gives, no unit. Source: house.
	PacketGives float64
	// PressedGaps is how many widest gaps thick a piece may be pressed for its first pass. Source: house.
	PressedGaps float64
	// HandlingS is the time to take, turn and feed a sheet, s a pass. Source: house.
	HandlingS float64
	// HandMM and PrintMM are how thin a sheet is when a hand and when print shows through it, mm. Source: house.
	HandMM, PrintMM float64
}

// Cut rules: trims and cooked growth.
type Cut struct {
	// TrimEndMM and TrimSideMM come off each end and each side of a sheet, mm. Source: house.
	TrimEndMM, TrimSideMM float64
	// FlatRibbonMaxMM is the thickest sheet for a flat ribbon, mm. Source: house.
	FlatRibbonMaxMM float64
	// CookedGrowth is cooked over raw width, no unit. Source: house.
	CookedGrowth float64
	// BackShare is the most trimmings kneaded into the next piece, share of that piece. Source: house.
	BackShare float64
	// ChargePerM is how long one metre of sheet takes to cut by hand, s. Source: house.
	ChargePerM float64
	// FoldMM is how wide a length is rolled up for the knife, mm. Source: house.
	FoldMM float64
	// WheelGapMM and RingGapMM are left between two pieces by a wheel and by a round cutter, mm. Source: house.
	WheelGapMM, RingGapMM float64
	// KnifeS is one cut of the knife through a loose roll, s. Source: house.
	KnifeS float64
	// YolkSetS is how long a whole yolk takes to part from its white and set in its piece, s. Source: house.
	YolkSetS float64
	// StrokeS is one straight cut through a sheet, RingS one round, s. Source: house.
	StrokeS, RingS float64
	// FilledS and FormedS are how long one piece takes to fill and close, and to form, s. Source: house.
	FilledS, FormedS float64
	// SeamMM is what the seams take of a filled piece's side, SeamSmallMM of one under SmallMM, mm. Source: house.
	SeamMM, SeamSmallMM, SmallMM float64
	// SeamMaxMM is the thickest seam that still cooks with the rest, both sheets, mm. Source: house.
	SeamMaxMM float64
	// FillHighMM and FillHighShare bound how high a filling stands, mm and share of the size. Source: house.
	FillHighMM, FillHighShare float64
	// FillDensity is a filling's density, g/mL, and FillShape how much of its block it fills, 0–1. Source: house.
	FillDensity, FillShape float64
	// HandfulG is a handful of dough, g. Source: house.
	HandfulG float64
	// FillMargin is how much more filling is made than goes in, share. Source: house.
	FillMargin float64
	// FillMakeMin and FillMakePerKGMin are how long making a filling takes: so long, and so much for each kg, min.
	// Source: house.
	FillMakeMin, FillMakePerKGMin float64
	// CutterOff is how far a cutter's pitch may be from the width wished for when the shape names no range, share.
	// Source: house.
	CutterOff float64
	// CutterSlack is how far beyond a cutter's range a sheet may be before it is said, share. Source: house.
	CutterSlack float64
	// OtherSheetOff is how far a shape's own sheet may be from the one it is cut from before it is said, share. Source:
	// house.
	OtherSheetOff float64
	// BrothG is a raw portion of trimmings in broth, g. Source: house.
	BrothG float64
}

// Dry rules: mass transfer and the window's losses.
type Dry struct {
	// SurfaceActivity and BoardActivity are the water activities of sheet and kneaded dough, 0–1. Source: house.
	SurfaceActivity, BoardActivity float64
	// StillMS and FanMS are mass transfer coefficients in still air and a gentle fan, m/s. Source: house, evaporative
	// cooling in it.
	StillMS, FanMS float64
	// RackFaces, BoardFaces, NestFaces are the faces open to the air. Source: house.
	RackFaces, BoardFaces, NestFaces float64
	// ConstantLoss is the loss up to which drying runs at constant rate, share of mass. Source: house.
	ConstantLoss float64
	// CutLoss, HoldLoss, BrittleLoss are the losses that cut cleanly, hold a nest, and crack, share of mass. Source:
	// house.
	CutLoss, HoldLoss, BrittleLoss float64
	// WindowFactor is how much longer than the first minute the window stays open. Source: house.
	WindowFactor float64
	// LeastGM3 is the vapour difference under which no time is given, g/m³. Source: house.
	LeastGM3 float64
	// MostMin is the time beyond which no time is given, min. Source: house.
	MostMin float64
	// CoverFaces is what a damp cloth or film leaves open, faces. Source: house.
	CoverFaces float64
	// KeepWB is the moisture at which dried pasta keeps, share wet basis. Source: trade usage, 12.5 %.
	KeepWB float64
	// TrayLongMM and TrayWideMM are a tray, mm, and TrayGapMM what stays free round a nest or piece. Source: house.
	TrayLongMM, TrayWideMM, TrayGapMM float64
	// NestMM is how wide a nest of NestRefG g lies, mm; others by the square root of their mass. Source: house.
	NestMM, NestRefG float64
	// RodGapMM is the rod a sheet takes on a rack beyond its own width, mm. Source: house.
	RodGapMM float64
}

// Cook rules: minutes in the pot.
type Cook struct {
	// BaseS, PerMMS and Power make seconds = base + per·te^power, te in mm. Source: house.
	BaseS, PerMMS, Power float64
	// TasteOnlyMM is the effective thickness over which only tasting tells, mm. Source: house.
	TasteOnlyMM float64
	// Early and Late are the spread of the time shown, share below and above the middle. Source: house.
	Early, Late float64
	// DryLinear and DrySquare lengthen the time by 1 + linear·x + square·x² for x % of mass lost. Source: house.
	DryLinear, DrySquare float64
	// FrozenMoreS is added straight from the freezer, s. Source: house.
	FrozenMoreS float64
	// PanShare is the part of the time in the water when it finishes in the pan, 0–1. Source: house.
	PanShare float64
	// FillReadyS and FillRawS are what a cooked and a raw filling need beyond the dough, s. Source: house.
	FillReadyS, FillRawS float64
	// CentreLowC and CentreHighC are what the centre of a raw filling should read, by the authority, °C. Source: usual
	// advice.
	CentreLowC, CentreHighC float64
	// PotL is a pot when none is given, L, and PotFill how full it is filled, 0–1. Source: house.
	PotL, PotFill float64
	// WaterPerPasta and SaltPerPasta are g of water and of salt per g of pasta. Source: house.
	WaterPerPasta, SaltPerPasta float64
	// BrothL is the broth to a plate that is served in it, L. Source: house.
	BrothL float64
}

// Bench rules: what is believed of scales, hands and waits while a batch is made.
type Bench struct {
	// BoilMin is how long a pot of BoilL litres takes to the boil where nobody has said, min, and BoilLeastMin what the
	// stove takes however
	// little is in it: min = BoilLeastMin + (BoilMin − BoilLeastMin)·L/BoilL. Source: house.
	BoilMin, BoilL, BoilLeastMin float64
	// Within and WithinShare are how near a reading counts as what is wanted: the larger of the two, g and share.
	// Source: house.
	Within, WithinShare float64
	// AloneG is the mass from which a reading may be taken by itself; less, and what is counted, is taken by a tap, g.
	// Source: house.
	AloneG float64
	// Otherwise is from what share a duration counts as another than planned, and OtherwiseMin the least that does,
	// min. Source: house.
	Otherwise, OtherwiseMin float64
	// WaitedMin is from what wait the dough is taken to have rested on, min. Source: house.
	WaitedMin float64
	// SheetOff is from what share a measured sheet counts as another than planned. Source: house.
	SheetOff float64
	// SplashG, SprayG and WetHandsG are what goes in by a splash, a spray of the mister and a pair of wet hands, g.
	// Source: house.
	SplashG, SprayG, WetHandsG float64
	// DustingG is the flour a dusting of the board brings in, g. Source: house.
	DustingG float64
	// GiveOrTake is how far those four may be off, share. Source: house.
	GiveOrTake float64
}

// Day rules: what a day of several batches is planned with, where a batch’s own plan does not say.
type Day struct {
	// MarginMin is how long before it is due an order is aimed to be ready, min. Source: house.
	MarginMin int
	// MixerHandsMin is how long filling the mixer’s bowl and scraping it takes somebody, min. Source: house.
	MixerHandsMin int
	// TurnMoreMin is how much longer than planned a dough may lie between two turns, min. Source: house.
	TurnMoreMin int
	// ColdLeastMin and ColdMostMin are how long a dough lies in the fridge, and TemperMin how long it then takes to
	// lose the chill, min. Source: house.
	ColdLeastMin, ColdMostMin, TemperMin int
	// FillingCoolMin is how long a filling cools, and FillingKeepMin how long it may wait in the fridge, min. Source:
	// house.
	FillingCoolMin, FillingKeepMin int
	// SheetWaitMin is how long a sheet that is not dried may wait under a cloth, and RopeWaitMin a piece for ropes
	// under cover, min. Source: house.
	SheetWaitMin, RopeWaitMin int
	// PackMin is the packing of what one piece of dough makes, min. Source: house.
	PackMin float64
	// PotMin is the time round a lot in the pot: putting it in, draining, dressing, min. Source: house.
	PotMin float64
	// CookWaitMin is how long what is cut may wait for the pot on its tray, min. Source: house.
	CookWaitMin int
	// EnoughShare is from what share of the portions ordered of it a batch is enough: a portion is never cut to the
	// gram, 0–1. Source: house.
	EnoughShare float64
	// DarkFrom is from how far an addition draws the colour the dough stains the rollers, 0–1. Source: house.
	DarkFrom float64
	// CleanEggFreeMin is the cleaning of the roller before an egg-free dough after one with egg, CleanPaleMin before a
	// pale dough after a dark one, and
	// CleanDarkMin before a dark dough after a lighter one, min. Source: house.
	CleanEggFreeMin, CleanPaleMin, CleanDarkMin int
}

// Causes is how a number is pushed by several causes together: a variance for each level, of the season, and of a slip.
// Source: house.
type Causes struct {
	// Levels are the variances of the levels, in the order they are named, the unit of the number squared. Source:
	// house.
	Levels []float64
	// Drift is the variance of the season, the same unit, and DriftDays how long it lasts, days. Source: house.
	Drift, DriftDays float64
	// Slip is the extra variance of a slip, the same unit. Source: house.
	Slip float64
	// Bridge is the variance that sittings of small doughs share besides, the same unit. Source: house.
	Bridge float64
}

// Factor is how far a multiplier may be from 1 before anything is seen, and how exactly a look sees it. Source: house.
type Factor struct {
	// Prior is the spread of its logarithm before anything is seen, no unit. Source: house.
	Prior float64
	// Spread is that of a look, no unit. Source: house.
	Spread float64
}

// Learn rules: how quickly the log is believed.
type Learn struct {
	// Newest is how many makings count, the newest. Source: house.
	Newest int
	// Hydration is of points: kitchen, flour, lot, maker, egg supplier. Source: house.
	Hydration Causes
	// FeelPoints is how far off each of the five words is, points, too dry first. Source: house.
	FeelPoints [5]float64
	// FeelNoise is the variance of each word, points squared. Source: house.
	FeelNoise [5]float64
	// MostPoints is the most the target is moved, points. Source: house.
	MostPoints float64
	// SurePoints is from what standard deviation on all of the liquid is poured at once, points. Source: house.
	SurePoints float64
	// Knead is of the work and rest a dough wants, by maker and tool. Source: house.
	Knead Factor
	// Rest is of the time constant of relaxation, by flour; its spread goes by the poke. Source: house.
	Rest Factor
	// PokeOpenS is from how many seconds to half recovery on a poke says only "slower", s. Source: house.
	PokeOpenS float64
	// Dry is of the minutes on a rack, by place and air. Source: house.
	Dry Factor
	// Cook is of the seconds in the pot, by family of shapes. Source: house.
	Cook Factor
	// Hands is of the logarithm of minutes: kitchen, maker, shape. Source: house.
	Hands Causes
	// HandsNoise is the variance of one such time. Source: house.
	HandsNoise float64
	// Loss is of the logarithm of what stays on bowl and board: kitchen, maker. Source: house.
	Loss Causes
	// LossNoise is the variance of one such loss, LossScaleG what a scale adds to it, g. Source: house.
	LossNoise, LossScaleG float64
	// Trim is of the logarithm of the trimmings: kitchen, shape. Source: house.
	Trim Causes
	// TrimNoise is the variance of one such mass, TrimScaleG what weighing adds to it, g. Source: house.
	TrimNoise, TrimScaleG float64
	// Shrink is of the share a cut ribbon pulls in lengthwise, over ShrinkShare: kitchen, flour. Source: house.
	Shrink Causes
	// ShrinkNoise is the variance of one such share. Source: house.
	ShrinkNoise float64
	// ShrinkShare is what a ribbon is taken to pull in before anything is known, share. Source: house.
	ShrinkShare float64
	// MostTrimOff is the most of what a layout gives that learned trimmings take off it, share. Source: house.
	MostTrimOff float64
	// Gap is of the logarithm of what a sheet is over what its stop says; it shares by share, by zero and by stop.
	// Source: house.
	Gap Gap
}

// Gap is how the gaps of a dial are off. Source: house.
type Gap struct {
	// Share is the variance of an error that is a share of every gap, no unit. Source: house.
	Share float64
	// Zero is that of a shift of the zero, mm², and Wander what it wanders over WanderDays, days. Source: house.
	Zero, Wander, WanderDays float64
	// Stop is that of each stop by itself, no unit. Source: house.
	Stop float64
	// Noise is that of one measurement, no unit, and NoiseMM what a caliper adds, mm². Source: house.
	Noise, NoiseMM float64
	// Slip is the extra variance of a slip, no unit. Source: house.
	Slip float64
	// Low and High are the least and the most a gap is taken to be of what it says. Source: house.
	Low, High float64
}

// Safety rules: the clock of egg dough out of the fridge, and in it. Local food rules come first.
type Safety struct {
	// CautionMin and DiscardMin are the minutes out of the fridge, min. Source: usual advice.
	CautionMin, DiscardMin float64
	// HotCautionMin and HotDiscardMin are the same when the room is over HotC, min. Source: usual advice.
	HotCautionMin, HotDiscardMin float64
	// HotC is the room temperature over which the shorter times hold, °C. Source: usual advice.
	HotC float64
	// CoolC is what a dough put into the fridge must read within DiscardMin of its door, °C. Source: house.
	CoolC float64
	// SellC is the same where many food plans of those who sell ask for it, °C. Source: usual advice.
	SellC float64
	// FridgeLowDays and FridgeDays are how long fresh pasta keeps covered at 5 °C or less, days. Source: usual advice,
	// cautious.
	FridgeLowDays, FridgeDays float64
	// RawFillDays is the same of a raw filling, days. Source: usual advice, cautious.
	RawFillDays float64
	// FreezeLowDays and FreezeDays are how long it keeps at −18 °C, days. Source: usual advice, cautious.
	FreezeLowDays, FreezeDays float64
	// DriedDays is how long pasta dried to keep is given, days. Source: house, cautious.
	DriedDays float64
	// MixMin is the time to mix before kneading starts, min. Source: house.
	MixMin float64
}

// Default returns the shipped house rules.
func Default() Rules {
	return Rules{
		Practice: practice(),
		Flour: Flour{BasisMoistureWB: .14, MilledMoistureWB: .135, MilledUSMoistureWB: .125,
			DriftTubDays: 120, DriftBagDays: 8, DriftBinDays: 2, DriftSiftedDays: .3, DriftMassPower: 2. / 3,
			EstimateLowWB: .105, EstimateHighWB: .155, MeasuredSD: .003, GlutenFragile: .70, GlutenNoSheet: .45,
			ProteinBasePct: 11},
		Measure: Measure{StartSD: .005, SorptionSD: .01, SensorRH: .02, TauShare: .30, BridgeRH: .08, HoleHours: 2,
			HoleDays: 3, TypedHours: .5, SunC: 40, SunOverC: 8, MostADay: .005, OvenSD: .0018, AbsorptionSDPct: 2.5,
			SheetSDPct:   .8,
			BatchWordVar: .72, SittingVar: .65, EggSD: 2.2,
			TraySD: 1.2, DoughWordVar: .24, DoughWeighVar: .0346, DoughSittingVar: .12, DoughBridgeVar: doughBridge,
			DoughStepShare: .25, DoughSlip: .05},
		Room: Room{PourShare: .60, BoardAreaM2: .045, BoardDoughPerFlour: 1.55, BoardRefMassG: 500, BoardSeconds: 600,
			HeldBackShare: .08},
		Hydration: Hydration{FatWeight: .20, AbsorptionWeight: .25, AbsorptionBasePct: 56, FineWidthMM: 3,
			FineShift: -.5, FilledShift: 1, YolkShift: -1.5, YolkWord: 4,
			Roller:  Band{42.5, 2.5, 2.5, [3]float64{6, 9, 12}, [3]float64{2.5, 5, 10}},
			Pin:     Band{46, 2, 3, [3]float64{6, 9, 12}, [3]float64{2.5, 5, 10}},
			Sheeter: Band{39, 1.5, 2.5, [3]float64{3, 6, 9}, [3]float64{4, 7, 10}}},
		Eggs: Eggs{RichLow: .15, RichHigh: .60, RichNominal: .30, WholeWaterShare: .7, MaxTopShare: .08,
			MinTopShare: .003, MaxFlourShare: .12,
			Tolerance: .3, OverCost: .3, ShareFree: .03, ShareStep: .05, TopCost: .5, FlourCost: .7, WhitesCost: .02,
			MaxOver: .15},
		Dough: Dough{AirShare: .02, FlourFatShare: .012, BowlLossShare: .01, BoardFlourShare: .015},
		Knead: Knead{
			W63Min:              4,
			W63Durum:            .25,
			W63Whole:            .20,
			W63Protein:          .04,
			W63Dry:              .03,
			W63Fat:              .010,
			DryHw:               42,
			FatFree:             5,
			TauRelaxMin:         14,
			RelaxDurum:          .3,
			RelaxFat:            .01,
			RelaxProtein:        .06,
			RelaxFatMax:         25,
			TensionMin:          1.5,
			CreditPerMin:        .05,
			CreditMax:           2,
			FoldWork:            .5,
			FoldHandsMin:        .5,
			FoldTension:         .25,
			RelaxDoubling:       10,
			UptakeDoubling:      20,
			CoolTauMin:          75,
			FlatTauMin:          2.5,
			FlatMM:              30,
			ContactRiseC:        1,
			FridgeC:             4,
			ReadyD:              .90,
			EnoughD:             .80,
			NightMin:            8 * 60,
			PinWork:             .3,
			ReadyT:              .25,
			ReadyU:              .95,
			ColdC:               12,
			HandHotC:            30,
			LongMinMin:          8,
			LongMaxMin:          15,
			LongUsualMin:        10,
			RestMinMin:          20,
			RestMinRichMin:      30,
			RestMinPinMin:       30,
			RestStepMin:         5,
			RestMaxMin:          120,
			LongFolds:           2,
			OnePersonG:          1200,
			TurnsMin:            2,
			TurnsMax:            3,
			TurnMinMin:          3,
			TurnMaxMin:          5,
			TurnUsualMin:        4,
			TurnRestMin:         15,
			TurnsColdMinMin:     120,
			TurnsColdMaxMin:     1440,
			ShortMinMin:         1,
			ShortMaxMin:         2,
			ShortRestMinMin:     20,
			ShortRestMaxMin:     30,
			ShortFoldsMin:       10,
			ShortFoldsMax:       14,
			HookSlowMin:         2,
			HookMinMin:          6,
			HookMaxMin:          8,
			HookUsualMin:        7,
			ProcessorMinMin:     .75,
			ProcessorMaxMin:     1,
			ProcessorHandMinMin: 2,
			ProcessorHandMaxMin: 3,
			MixHandMin:          5,
			MixMachineMin:       1,
			MachineHotC:         28,
			TemperPieceMin:      15,
			GreyMin:             24 * 60,
			KeepMin:             48 * 60,
			PokeTenseS:          1.5,
			PokeReadyS:          3,
			PokeSureS:           4,
			HookSlow:            Method{.65, .3},
			Hand:                Method{1, .2},
			Hook:                Method{1.3, .6},
			Processor:           Method{8, 5},
		},
		Roll: Roll{
			SpringBase:    .05,
			SpringTension: .25,
			SpringDurum:   .03,
			ReduceBase:    .45,
			ReduceShort:   .3,
			ReduceTension: .15,
			ReduceRaw:     .36,
			ReduceFat:     .004,
			ReduceGluten:  .20,
			ReduceSheeter: .05,
			ReduceThin:    .04,
			ThinMM:        1,
			ReduceBand:    .005,
			ReduceLow:     .22,
			ReduceHigh:    .55,
			CarefulOff:    .08,
			CarefulFatPct: 15,
			BoldOver:      .10,
			PieceFlourG:   100,
			PieceHighMM:   15,
			PieceLongMM:   55,
			PacketGives:   1.15,
			PressedGaps:   4,
			HandlingS:     9,
			HandMM:        1.2,
			PrintMM:       .8,
		},
		Cut: Cut{
			HandfulG:         60,
			TrimEndMM:        10,
			TrimSideMM:       3,
			FlatRibbonMaxMM:  1.6,
			CookedGrowth:     1.12,
			BackShare:        .20,
			ChargePerM:       40,
			FoldMM:           60,
			WheelGapMM:       2,
			RingGapMM:        2,
			StrokeS:          2,
			KnifeS:           1,
			YolkSetS:         20,
			RingS:            1.5,
			FilledS:          9,
			FormedS:          4,
			SeamMM:           16,
			SeamSmallMM:      12,
			SmallMM:          40,
			SeamMaxMM:        1.5,
			FillHighMM:       10,
			FillHighShare:    .18,
			FillDensity:      1.05,
			FillShape:        .6,
			FillMargin:       .05,
			FillMakeMin:      8,
			FillMakePerKGMin: 6,
			CutterOff:        .2,
			CutterSlack:      .05,
			OtherSheetOff:    .15,
			BrothG:           70,
		},
		Dry: Dry{
			SurfaceActivity: .96,
			BoardActivity:   .97,
			StillMS:         .0025,
			FanMS:           .008,
			RackFaces:       2,
			BoardFaces:      1,
			NestFaces:       .3,
			ConstantLoss:    .06,
			CutLoss:         .03,
			HoldLoss:        .06,
			BrittleLoss:     .10,
			WindowFactor:    1.6,
			LeastGM3:        .5,
			MostMin:         120,
			CoverFaces:      .1,
			KeepWB:          .125,
			TrayLongMM:      600,
			TrayWideMM:      400,
			TrayGapMM:       10,
			NestMM:          90,
			NestRefG:        120,
			RodGapMM:        20,
		},
		Cook: Cook{
			BaseS:         40,
			PerMMS:        70,
			Power:         1.5,
			TasteOnlyMM:   3,
			Early:         .40,
			Late:          .60,
			DryLinear:     .04,
			DrySquare:     .0015,
			FrozenMoreS:   45,
			PanShare:      2. / 3,
			FillReadyS:    30,
			FillRawS:      90,
			CentreLowC:    71,
			CentreHighC:   75,
			PotL:          8,
			PotFill:       .8,
			WaterPerPasta: 10,
			SaltPerPasta:  .1,
			BrothL:        .35,
		},
		Safety: Safety{
			CautionMin:    120,
			DiscardMin:    240,
			HotCautionMin: 60,
			HotDiscardMin: 120,
			HotC:          32,
			CoolC:         7,
			SellC:         5,
			MixMin:        5,
			FridgeLowDays: 1,
			FridgeDays:    2,
			RawFillDays:   1,
			FreezeLowDays: 30,
			FreezeDays:    60,
			DriedDays:     30,
		},
		Bench: Bench{
			BoilMin:      15,
			BoilL:        6,
			BoilLeastMin: 3,
			Within:       1,
			WithinShare:  .01,
			AloneG:       10,
			Otherwise:    .15,
			OtherwiseMin: 1,
			WaitedMin:    10,
			SheetOff:     .08,
			SplashG:      5,
			SprayG:       1,
			WetHandsG:    2,
			DustingG:     4,
			GiveOrTake:   .5,
		},
		Day: Day{
			MarginMin:       15,
			MixerHandsMin:   4,
			TurnMoreMin:     15,
			ColdLeastMin:    120,
			ColdMostMin:     1440,
			TemperMin:       30,
			FillingCoolMin:  30,
			FillingKeepMin:  1440,
			SheetWaitMin:    15,
			RopeWaitMin:     60,
			PackMin:         .5,
			PotMin:          2,
			CookWaitMin:     120,
			EnoughShare:     .98,
			DarkFrom:        .25,
			CleanEggFreeMin: 15,
			CleanPaleMin:    10,
			CleanDarkMin:    2,
		},
		Learn: Learn{
			Newest: 200,
			Hydration: Causes{Levels: []float64{2.25, 1.44, .64, .16, .16}, Drift: .25, DriftDays: 60, Slip: 25,
				Bridge: doughBridge},
			FeelPoints: [5]float64{
				-2.6,
				-1.2,
				0,
				1.2,
				2.6,
			},
			FeelNoise:  [5]float64{1.2, .6, .5, .6, 1.2},
			MostPoints: 6,
			SurePoints: .8,
			Knead:      Factor{.30, .18},
			Rest:       Factor{.30, 0},
			PokeOpenS:  8,
			Dry:        Factor{.40, .20},
			Cook:       Factor{.20, .12},
			Hands:      Causes{Levels: []float64{.09, .0225, .04}, Drift: .01, DriftDays: 60, Slip: .36},
			HandsNoise: .04,
			Loss:       Causes{Levels: []float64{.25, .04}, Slip: 1},
			LossNoise:  .16,
			LossScaleG: 2,
			Trim:       Causes{Levels: []float64{.06, .04}, Slip: .36},
			TrimNoise:  .04,
			TrimScaleG: 5,
			Shrink: Causes{
				Levels: []float64{.0004, .0001},
				Slip:   .0025,
			},
			ShrinkNoise: .0001,
			ShrinkShare: .04,
			MostTrimOff: .3,
			Gap: Gap{
				Share:      .0036,
				Zero:       .0025,
				Wander:     .0004,
				WanderDays: 180,
				Stop:       .000625,
				Noise:      .0004,
				NoiseMM:    .0001,
				Slip:       .0225,
				Low:        .8,
				High:       1.5,
			},
		},
	}
}
