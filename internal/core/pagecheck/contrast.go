package pagecheck

import (
	"encoding/json"
	"strings"

	"jundle/internal/core/look"
	"jundle/internal/core/page"
)

// readable is the repair of a colour that cannot be made out: the nearest one that can, or another background where no
// colour can be made out on the present one; nil where neither is known.
func readable(doc page.Document, figure look.Figure) *Repair {
	rest, own := strings.CutPrefix(figure.Where, "blocks/")
	switch {
	case figure.Better == "" && !own:
		remedy := look.GroundRemedy(doc.Look)
		if remedy == nil {
			return nil
		}
		other := doc.Look
		other.Ground = remedy.Ground
		return &Repair{Label: remedy.Description, Look: &other}
	case figure.Better == "":
		return nil
	case own:
		key, setting, _ := strings.Cut(rest, "/")
		block, _ := doc.Find(key)
		if changed, ok := withSetting(block, setting, figure.Better); ok {
			return repairOf("Use the nearest colour that can be read", changed)
		}
		return nil
	}
	if changed, ok := withSetting(doc.Look, figure.Where, figure.Better); ok {
		return &Repair{Label: "Use the nearest colour that can be read", Look: &changed}
	}
	return nil
}

// withSetting is something with another text at a place, as its JSON names it; false where no text stands there.
func withSetting[T any](of T, place, text string) (changed T, ok bool) {
	written, err := json.Marshal(of)
	if err != nil {
		return changed, false
	}
	var whole map[string]any
	if err := json.Unmarshal(written, &whole); err != nil {
		return changed, false
	}
	names := strings.Split(place, "/")
	last := len(names) - 1
	object := whole
	for _, name := range names[:last] {
		if object, ok = object[name].(map[string]any); !ok {
			return changed, false
		}
	}
	if _, ok = object[names[last]].(string); !ok {
		return changed, false
	}
	object[names[last]] = text
	if written, err = json.Marshal(whole); err != nil {
		return changed, false
	}
	return changed, json.Unmarshal(written, &changed) == nil
}
