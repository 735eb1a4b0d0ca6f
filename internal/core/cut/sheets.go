package cut

// LeaveSheets leaves sheets as they are, to be cut later: nothing is trimmed.
func LeaveSheets(sheets Sheets) Layout {
	all := float64(sheets.Count) * sheets.MassG
	return Layout{Family: Undecided, WidthMM: sheets.WidthMM, LengthMM: sheets.LengthMM, CookedMM: sheets.WidthMM,
		Across: 1, Along: 1, PerSheet: 1,
		Count: sheets.Count, OneG: sheets.MassG, DoughG: all, MadeG: all}
}
