package practice

// signCalls are which call a sign of the doctor belongs to.
var signCalls = map[string]Call{
	"apart":       Shaggy,
	"cracks":      Water,
	"sticks":      Water,
	"wraps":       Water,
	"hard":        Rested,
	"sandy":       Rested,
	"snaps-back":  Rested,
	"first-pass":  Folds,
	"ragged":      Folds,
	"tapers":      Folds,
	"tears":       Step,
	"skin":        SkinFound,
	"weld":        Dry,
	"brittle":     Dry,
	"not-through": Thin,
	"mats":        Thin,
	"falls":       Pot,
}

// OfSign is the call a sign of the doctor belongs to; "" where it belongs to none.
func OfSign(sign string) Call { return signCalls[sign] }
