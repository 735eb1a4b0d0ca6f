// Package recipe answers: what does a kitchen make, apart from the day it makes it; how is it made at another amount;
// and
// what differs between a batch and the recipe it was taken from?
//
// A recipe is a request whose fields fall into three parts: the recipe's, the day's and the amount's. To compare, merge
// or take back, one side is first scaled to the other's amount; only what then differs in the recipe's part counts.
package recipe

import (
	"slices"
	"strings"

	"hollen/internal/core/request"
)

// Part is whose a field of a request is.
type Part string

// The parts.
const (
	OfRecipe Part = "recipe" // what is made
	OfDay    Part = "day"    // when, in which air, by whom, of which lots
	OfAmount Part = "amount" // how much
)

// rows are the fields by their paths, a * for the number of a slot. Each field of the request stands in exactly one.
var rows = map[Part][]string{
	OfDay: {"made_on", "made_by", "room.temp_c", "room.rh", "room.air", "used.flour_left_g", "used.liquid_left_g",
		"used.liquid_added_g", "acts.*.kind", "acts.*.amount", "acts.*.sign", "acts.*.stage", "flours.*.lot",
		"flours.*.kept",
		"flours.*.open_days", "flours.*.container_kg", "flours.*.measured_moisture_wb", "flours.*.price_per_kg",
		"additions.*.price_per_kg", "eggs.class", "eggs.own_egg_g", "eggs.own_yolk_g", "eggs.yolk_colour",
		"eggs.cracked_g",
		"eggs.from", "bench.people", "bench.hand_limit_g", "bench.hook_g", "bench.processor_g", "bench.fridge_c",
		"bench.scale_tenths", "bench.rack_rod_m", "bench.trays", "bench.pot_l", "bench.pots", "bench.boil_min",
		"prices.currency", "prices.egg_each", "prices.oil_per_kg", "prices.milk_per_kg", "prices.salt_per_kg",
		"prices.wage_per_hour", "dry.raw_g", "dry.checks.*.at", "dry.checks.*.g", "cut.filling.made_on",
		"keep.made_at", "rest.poke_s",
		"clock.roll_at",
		"clock.from", "by_the_book"},
	OfAmount: {"amount.by", "amount.portions", "amount.dough_g", "amount.flour_g", "amount.flour_open", "amount.egg_g",
		"amount.eaters", "amount.flour_each_g", "eggs.fix_whole_eggs", "eggs.fix_extra_yolks", "eggs.liquid_g",
		"eggs.also.*.count", "cut.also.*.portions", "roll.pieces", "prices.filling", "measures"},
	OfRecipe: {"name", "amount.portion_g", "flours.*.flour", "flours.*.share", "additions.*.addition",
		"additions.*.share",
		"eggs.style", "eggs.top_up", "eggs.liquid_open", "eggs.move_flour", "eggs.by_weight", "eggs.also.*.class",
		"salt_share", "oil_share", "knead.by", "knead.school", "knead.knead_min", "knead.turns", "knead.mix",
		"knead.shared",
		"knead.own_steps.*.do", "knead.own_steps.*.min", "knead.own_steps.*.cover", "knead.own_steps.*.hands",
		"knead.own_steps.*.add",
		"rest.at", "rest.rest_min", "rest.temper_min", "rest.wrapped", "rest.flat_mm", "roll.machine", "roll.target_mm",
		"roll.by", "roll.mode", "roll.bench_mm", "roll.careful", "roll.divide", "roll.fold", "roll.folds",
		"roll.outline",
		"roll.dusted_with", "roll.last_twice", "roll.stripes.base_mm", "roll.stripes.stripe_mm", "roll.stripes.laid",
		"roll.stripes.third_colour", "roll.stripes.mirrored", "roll.stripes.width_mm", "roll.stripes.pitch_mm",
		"roll.stripes.strips.*.colour", "roll.stripes.strips.*.width_mm", "roll.stripes.strips.*.gap_mm",
		"roll.own_passes.*.stop", "roll.own_passes.*.passes", "roll.own_passes.*.fold", "roll.own_passes.*.first",
		"roll.own_passes.*.rest_min", "roll.own_passes.*.dust", "cut.shape", "cut.width_mm", "cut.long_mm",
		"cut.min_length_mm", "cut.max_length_mm", "cut.nest_g", "cut.piece_g", "cut.trim_end_mm", "cut.trim_side_mm",
		"cut.fold_mm", "cut.tool", "cut.pattern", "cut.trimmings", "cut.filling.of", "cut.filling.name",
		"cut.filling.kind",
		"cut.filling.allergens", "cut.filling.piece_g", "cut.also.*.shape", "cut.also.*.by", "cut.also.*.stop",
		"cut.also.*.width_mm", "cut.also.*.long_mm", "cut.also.*.min_length_mm", "cut.also.*.max_length_mm",
		"cut.also.*.dry_min", "cut.also.*.cook_min", "cut.also.*.cook_to_min", "dry.sheet.by", "dry.sheet.min",
		"dry.sheet.to_min", "dry.sheet.air", "dry.on", "dry.pieces.by", "dry.pieces.min", "dry.pieces.to_min",
		"dry.pieces.on",
		"dry.pieces.air", "dry.packing.by", "dry.packing.min", "dry.packing.to_min", "dry.packing.on",
		"dry.packing.air",
		"dry.keep", "keep.where", "keep.days", "keep.note", "cook.after", "cook.min", "cook.to_min", "cook.in",
		"cook.water_l",
		"cook.salt_share"},
}

// partOf is whose each row is.
var partOf = func() map[string]Part {
	m := map[string]Part{}
	for part, paths := range rows {
		for _, p := range paths {
			m[p] = part
		}
	}
	return m
}()

// Row is the row of a path: its slot's number as *.
func Row(path string) string {
	parts := strings.Split(path, ".")
	for i, p := range parts {
		if p != "" && strings.Trim(p, "0123456789") == "" {
			parts[i] = "*"
		}
	}
	return strings.Join(parts, ".")
}

// PartOf is whose a field is; "" where no row names it.
func PartOf(f request.Field) Part { return partOf[Row(f.Path)] }

// Rows are the paths of a part, in order.
func Rows(p Part) []string { return slices.Sorted(slices.Values(rows[p])) }
