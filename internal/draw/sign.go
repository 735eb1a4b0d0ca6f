package draw

// signs are small drawings of what a maker sees, 64 by 44. Classes as in the other pictures.
var signs = map[string]string{
	"well": `<path class="dough" d="M4 38L16 14 28 22 30 38Z"/><path class="dough" d="M60 38L50 18 44 38Z"/>` +
		`<path class="drop" d="M28 38q6-14 12-8t18 8z"/><circle class="yolk-in" cx="36" cy="31" r="5"/>`,
	"crumbs": `<circle class="dough" cx="14" cy="32" r="5"/><circle class="dough" cx="26" cy="34" r="4"/>` +
		`<circle class="dough" cx="37" cy="31" r="6"/><circle class="dough" cx="50" cy="34" r="4"/>` +
		`<circle class="dough" cx="30" cy="22" r="4"/>` +
		`<circle class="dough" cx="44" cy="20" r="3"/><circle class="dough" cx="19" cy="20" r="3"/>`,
	"cracks": `<path class="dough" d="M6 32Q32 4 58 32Q32 22 6 32Z"/>` +
		`<path class="crack" d="M24 18l3 6-2 4M34 15l1 8 3 4M43 20l-2 5"/>`,
	"sticks": `<path class="dim" d="M4 38h56"/>` +
		`<path class="dough" d="M16 36Q14 12 32 12T50 36Q44 28 42 36Q38 26 34 36Q30 26 26 36Q22 28 16 36Z"/>`,
	"lump": `<ellipse class="dough" cx="32" cy="26" rx="24" ry="13"/><path class="dough-line" d="M14 22q18-10 36 0"/>`,
	"spring": `<path class="dough" d="M22 18h20v12H22z"/><path class="dim" d="M18 24H6M46 24h12"/>` +
		`<path class="ink" d="M11 19l7 5-7 5M53 19l-7 5 7 5"/>`,
	"ragged": `<path class="dough" d="M4 14l6 3 5-4 7 4 6-3 8 3 7-4 6 4 5-2 6 3v14l-6 3-6-3-6 4-7-4-7 3-6-3-7 3-6` +
		`-4-5 3z"/>`,
	"hole": `<rect class="dough" x="4" y="12" width="56" height="20"/>` +
		`<path class="gap" d="M26 18q8-6 14 2t-6 9-8-11z"/>`,
	"taper": `<path class="dough" d="M4 10Q30 14 60 20v6Q30 32 4 34Z"/>`,
	"wrap": `<circle class="metal" cx="32" cy="22" r="13"/>` +
		`<path class="wrapped" d="M4 38Q20 40 34 38A16 16 0 1 0 17 17"/>`,
	"weld": `<path class="dough" d="M6 10h52v4H6zM6 16h52v4H6zM6 26h52v4H6z"/>` +
		`<path class="dough" d="M20 12h12v6H20zM36 18h14v10H36z"/>`,
	"cutter": `<rect class="dough" x="4" y="20" width="56" height="10"/>` +
		`<path class="crack" d="M14 20v7M26 20v5M38 20v7M50 20v5"/>` +
		`<path class="ink" d="M14 8v12M26 8v12M38 8v12M50 8v12"/>`,
	"specks": `<rect class="dough" x="4" y="12" width="56" height="20"/><circle class="tick" cx="16" cy="19" r="1.6"/>` +
		`<circle class="tick" cx="30" cy="26" r="1.6"/><circle class="tick" cx="42" cy="18" r="1.6"/>` +
		`<circle class="tick" cx="52" cy="27" r="1.6"/><circle class="tick" cx="24" cy="16" r="1.2"/>`,
	"skin": `<ellipse class="dough" cx="32" cy="26" rx="24" ry="13"/>` +
		`<path class="crack" d="M9 22Q32 4 55 22l-5 2q-18-12-36 0z"/>`,
	"dry-lumps": `<ellipse class="dough" cx="32" cy="26" rx="25" ry="14"/>` +
		`<circle class="floury" cx="20" cy="24" r="4"/>` +
		`<circle class="floury" cx="34" cy="20" r="3"/><circle class="floury" cx="43" cy="28" r="4.5"/>` +
		`<circle class="floury" cx="30" cy="32" r="2.6"/>`,
	"sand": `<path class="dough" d="M4 36Q14 22 26 20T44 22Q54 26 60 36Z"/>` +
		`<path class="crack" d="M14 31h.1M20 27h.1M24 33h.1` +
		`M30 25h.1M33 31h.1M38 27h.1M42 33h.1M47 29h.1M52 33h.1M27 29h.1M36 35h.1M18 34h.1"/>`,
	"unmoved": `<ellipse class="dough" cx="32" cy="29" rx="24" ry="11"/><path class="ink" d="M32 3v12M27 10l5 6 5-6"/>` +
		`<path class="dough-line" d="M14 26q18-8 36 0"/>`,
	"broken": `<path class="dough" d="M4 14h22l-4 5 5 4-6 5 3 4H4z"/>` +
		`<path class="dough" d="M60 14H36l-3 4 5 5-5 4 4 5h23z"/>`,
	"edge": `<path class="dough" d="M4 12h56v20H4z"/>` +
		`<path class="crack" d="M60 15l-8 3 3 3-9 1M60 27l-7-1-2 3-7-2M4 21l8 1 2-3"/>`,
	"grey": `<ellipse class="dough" cx="32" cy="26" rx="24" ry="13"/>` +
		`<path class="dulled" d="M20 18q10-6 22-1 8 6 2 12-10 6-22 2` +
		`-8-6-2-13z"/>`,
	"mat": `<path class="dough" d="M4 22h56v12H4z"/>` +
		`<path class="crack" d="M12 22v12M22 22v12M32 22v12M42 22v12M52 22v12"/>` +
		`<path class="dough" d="M14 25h36v5H14z"/><path class="ink" d="M12 6v12M22 6v12M32 6v12M42 6v12M52 6v12"/>`,
	"in-water": `<path class="dim" d="M4 12q7-5 14 0t14 0 14 0 14 0"/>` +
		`<path class="dough" d="M8 22q8-5 14 0l-1 4q-7-4-12 0z` +
		`M30 20q6-4 12 1l-2 4q-5-4-9-1zM18 34q9-5 16 0l-2 4q-6-4-12 0zM44 32q6-4 13 0l-2 4q-5-3-9 0z"/>`,
	"clock": `<circle class="metal" cx="32" cy="22" r="16"/><path class="ink" d="M32 12v10l8 5"/>`,
	"burst": `<rect class="dough" x="14" y="6" width="36" height="32"/><circle class="drop" cx="32" cy="22" r="9"/>` +
		`<path class="ink" d="M38 28l10 8M42 24l10 4"/>`,
}

// Sign returns the small drawing of that key, which only accompanies words; "" when there is
// none.
func Sign(key string) string {
	if signs[key] == "" {
		return ""
	}
	return `<svg class="draw sign" viewBox="0 0 64 44" aria-hidden="true">` + signs[key] + `</svg>`
}
