package look

// Theme is a look to begin from.
type Theme struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Dark bool   `json:"dark"`
	Look Look   `json:"look"`
}

// Default is the look of a page that has chosen none.
func Default() Look { return Themes()[0].Look }

// Themes are those that ship with the application. Every text and edge of each
// passes, and a test says so.
func Themes() []Theme {
	return []Theme{
		light("bench", "Bench", plain("#f3eee4"), "#1f1b16", "#4e463b",
			Buttons{"filled", "rounded", "none", "full", "#fffdf8", "#1f1b16", "#857862"}, "device"),
		light("chalk", "Chalk", plain("#ffffff"), "#16181a", "#55595e",
			Buttons{"outlined", "square", "none", "full", "#ffffff", "#16181a", "#16181a"}, "signpost"),
		light("celadon", "Celadon", gradient(170, "#e4efe6", "#cfe3d8"), "#17332b", "#35574b",
			Buttons{"filled", "pill", "none", "full", "#1f5b4a", "#ffffff", "#1f5b4a"}, "almanac"),
		light("cobalt", "Cobalt", pattern("waves", "#f5f8fd", "#dfe8f8", 100), "#12204a", "#3a4a78",
			Buttons{"filled", "rounded", "soft", "full", "#1c3fa8", "#ffffff", "#1c3fa8"}, "press"),
		light("apricot", "Apricot", gradient(180, "#fff1e0", "#ffdcc2", "#fbc9ab"), "#43200f", "#6b3a20",
			Buttons{"filled", "pill", "soft", "full", "#fffaf4", "#6d2c10", "#a85a30"}, "notebook"),
		light("signal", "Signal", plain("#ffd23f"), "#171407", "#3d3510",
			Buttons{"filled", "square", "hard", "full", "#ffffff", "#171407", "#171407"}, "square"),
		light("linen", "Linen", pattern("crosses", "#f4f1ea", "#e6e0d2", 90), "#2b2a24", "#575447",
			Buttons{"soft", "rounded", "none", "full", "#6e6a4f", "#2b2a24", "#6e6a4f"}, "reading-room"),
		light("terrazzo", "Terrazzo", pattern("terrazzo", "#fbf6f0", "#f0dccb", 120), "#3a2015", "#6a4433",
			Buttons{"filled", "rounded", "hard", "full", "#c7512c", "#ffffff", "#3a2015"}, "workshop"),
		dark("cinder", "Cinder", plain("#17130f"), "#f6ece0", "#c8b8a6",
			Buttons{"filled", "rounded", "none", "full", "#f08a3c", "#1d1108", "#f08a3c"}, "workshop"),
		dark("slate", "Slate", plain("#22282d"), "#eef2f4", "#b7c2c9",
			Buttons{"outlined", "rounded", "none", "full", "#22282d", "#eef2f4", "#8fa0ab"}, "ledger"),
		dark("night-firing", "Night firing", gradient(165, "#0e1726", "#16263b", "#5a2415"), "#fff4e6", "#e2cfbb",
			Buttons{"soft", "pill", "none", "full", "#ffd9a8", "#fff4e6", "#ffd9a8"}, "gallery"),
		dark("harbour", "Harbour", pattern("scales", "#0d3b45", "#11464f", 130), "#eafaf7", "#b5dcd9",
			Buttons{"filled", "rounded", "soft", "full", "#f3e6c8", "#0d3238", "#f3e6c8"}, "stage"),
		dark("oxblood", "Oxblood", plain("#4a1519"), "#ffeee6", "#eac4b8",
			Buttons{"filled", "square", "none", "full", "#ffe4d2", "#4a1519", "#ffe4d2"}, "sunday"),
		dark("carbon", "Carbon", pattern("grid", "#111417", "#1c2126", 100), "#e9f0ea", "#a9b7ad",
			Buttons{"bare", "square", "none", "full", "#111417", "#8fe3a6", "#8fe3a6"}, "typewriter"),
	}
}

// FindTheme finds a theme by its ID.
func FindTheme(id string) (Theme, bool) {
	for _, theme := range Themes() {
		if theme.ID == id {
			return theme, true
		}
	}
	return Theme{}, false
}

func light(id, name string, ground Ground, text, soft string, buttons Buttons, pair string) Theme {
	return Theme{ID: id, Name: name, Look: Look{Theme: id, Ground: ground, Text: text, Soft: soft, Buttons: buttons, Type: Type{Pair: pair}}}
}

func dark(id, name string, ground Ground, text, soft string, buttons Buttons, pair string) Theme {
	theme := light(id, name, ground, text, soft, buttons, pair)
	theme.Dark = true
	return theme
}

func plain(code string) Ground { return Ground{Kind: PlainGround, Colour: code} }

func gradient(angle int, colours ...string) Ground {
	return Ground{Kind: GradientGround, Colour: colours[0], Gradient: &Gradient{Colours: colours, Angle: angle}}
}

func pattern(name, ground, ink string, scale int) Ground {
	return Ground{Kind: PatternGround, Colour: ground, Pattern: &Pattern{Name: name, Ink: ink, Scale: scale}}
}
