package look

// Pair is two fonts that go together. A family is named as the font library
// names it; an empty one is what the visitor's device has.
type Pair struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Head Face   `json:"head" doc:"For names and headings."`
	Text Face   `json:"text" doc:"For all else."`
}

// Face is a font in the weights a page uses.
type Face struct {
	Family string `json:"family" doc:"Empty for the device's own."`
	// Weight is the ordinary one; Bold is used for what stands out, 0 for none.
	Weight int `json:"weight"`
	Bold   int `json:"bold"`
	// Kind is what is fallen back on.
	Kind string `json:"kind" enum:"sans,serif,mono,hand"`
}

func head(family string, weight int, kind string) Face {
	return Face{Family: family, Weight: weight, Kind: kind}
}

func text(family string, bold int, kind string) Face {
	return Face{Family: family, Weight: 400, Bold: bold, Kind: kind}
}

// Pairs are those that ship with the application. The first needs no download.
var Pairs = []Pair{
	{"device", "What the phone has", Face{Weight: 700, Kind: "sans"}, Face{Weight: 400, Bold: 600, Kind: "sans"}},
	{"workshop", "Workshop", head("bricolage-grotesque", 700, "sans"), text("work-sans", 600, "sans")},
	{"almanac", "Almanac", head("fraunces", 700, "serif"), text("karla", 600, "sans")},
	{"ledger", "Ledger", head("bitter", 700, "serif"), text("source-sans-3", 600, "sans")},
	{"gallery", "Gallery", head("dm-serif-display", 400, "serif"), text("dm-sans", 600, "sans")},
	{"signpost", "Signpost", head("archivo", 700, "sans"), text("archivo", 600, "sans")},
	{"reading-room", "Reading room", head("lora", 700, "serif"), text("lora", 600, "serif")},
	{"stage", "Stage", head("syne", 700, "sans"), text("manrope", 600, "sans")},
	{"press", "Press", head("zilla-slab", 700, "serif"), text("ibm-plex-sans", 600, "sans")},
	{"notebook", "Notebook", head("patrick-hand", 400, "hand"), text("nunito", 600, "sans")},
	{"typewriter", "Typewriter", head("ibm-plex-mono", 600, "mono"), text("ibm-plex-mono", 600, "mono")},
	{"sunday", "Sunday", head("playfair-display", 700, "serif"), text("libre-franklin", 600, "sans")},
	{"square", "Square", head("space-grotesk", 700, "sans"), text("space-grotesk", 600, "sans")},
}

// FindPair finds a pair by its ID.
func FindPair(id string) (Pair, bool) {
	for _, pair := range Pairs {
		if pair.ID == id {
			return pair, true
		}
	}
	return Pair{}, false
}

// Patterns are those a ground can be drawn with.
var Patterns = []string{"dots", "grid", "waves", "stripes", "checks", "crosses", "scales", "terrazzo"}
