package request

import (
	"reflect"
	"slices"
)

// SameDough says whether two batches are of one dough: the same flours in the same shares, eggs of the same kind in the
// same style, and as
// much salt, oil and of every addition. Room, kneading and rest may differ; a dough made to the maker’s own amounts is
// like no other.
func SameDough(a, b *Request) bool {
	if a.Amount.By == ByOwn || b.Amount.By == ByOwn || a.Salt != b.Salt || a.Oil != b.Oil {
		return false
	}
	flours := slices.EqualFunc(a.Flours, b.Flours, func(x, y FlourPart) bool {
		return x.Flour == y.Flour && x.Lot == y.Lot && x.Share == y.Share && reflect.DeepEqual(x.Own, y.Own)
	})
	eggs := a.Eggs.Style == b.Eggs.Style && a.Eggs.Class == b.Eggs.Class && reflect.DeepEqual(a.Eggs.OwnClass,
		b.Eggs.OwnClass)
	return flours && eggs && slices.EqualFunc(a.Eggs.Also, b.Eggs.Also, alike[EggCount]) &&
		slices.EqualFunc(a.Additions, b.Additions, alike[AdditionPart])
}

func alike[T any](a, b T) bool { return reflect.DeepEqual(a, b) }
