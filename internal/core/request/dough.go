package request

import (
	"reflect"
	"slices"
)

// SameDough says whether two batches are of one dough: the same flours in the same shares, eggs of the same kind in the same style, and as
// much salt, oil and of every addition. Room, kneading and rest may differ; a dough made to the maker’s own amounts is like no other.
func SameDough(a, b *Request) bool {
	if a.Amount.By == ByOwn || b.Amount.By == ByOwn {
		return false
	}
	return slices.EqualFunc(a.Flours, b.Flours, func(x, y FlourPart) bool {
		return x.Flour == y.Flour && x.Lot == y.Lot && x.Share == y.Share && reflect.DeepEqual(x.Own, y.Own)
	}) && a.Eggs.Style == b.Eggs.Style && a.Eggs.Class == b.Eggs.Class && reflect.DeepEqual(a.Eggs.OwnClass, b.Eggs.OwnClass) &&
		slices.EqualFunc(a.Eggs.Also, b.Eggs.Also, alike[EggCount]) && a.Salt == b.Salt && a.Oil == b.Oil && slices.EqualFunc(a.Additions, b.Additions,
			alike[AdditionPart])
}

func alike[T any](a, b T) bool { return reflect.DeepEqual(a, b) }
