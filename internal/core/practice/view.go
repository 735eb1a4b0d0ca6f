package practice

// Kind is what a dough is seen as.
type Kind string

// What it is seen as.
const (
	AsLump  Kind = "lump"
	AsSheet Kind = "sheet"
	AsHung  Kind = "hung"
	AsNest  Kind = "nest"
	AsBite  Kind = "bite"
)

// View is what is drawn: never more than was shown.
type View struct {
	Kind Kind
	Torn bool // the last pass tore it, which anybody sees
}

// View is what a batch is seen as.
func (x *Batch) View() View {
	v := View{Torn: x.Dough.Holes}
	switch x.Phase {
	case AtRolls:
		v.Kind = AsSheet
		if x.Dough.Stop < 0 {
			v.Kind = AsLump
		}
	case AtRack:
		v.Kind = AsHung
		if !x.k.Before {
			v.Kind = AsNest
		}
	case InPot, Over:
		v.Kind = AsBite
	default:
		v.Kind = AsLump
	}
	return v
}

// View is what a drill is seen as.
func (d *Drill) View() View {
	switch d.Call.Key {
	case Folds, Step, Thin:
		return View{Kind: AsSheet}
	case Dry:
		if d.dough.b.Before {
			return View{Kind: AsHung}
		}
		return View{Kind: AsNest}
	case Pot:
		return View{Kind: AsBite}
	}
	return View{Kind: AsLump}
}
