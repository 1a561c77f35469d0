package render

import (
	"strings"

	"jundle/internal/core/page"
)

// frameOf is the address of the player of a block; empty where it has none, or where
// something is asked first.
func frameOf(block page.Block, visit Visit) string {
	for _, target := range block.Targets() {
		if target.Frame != "" {
			return visit.reached(target.Frame)
		}
	}
	return ""
}

// Frame is the address of the block's player; empty in the strip.
func (v blockView) Frame() string {
	if v.painter.strip {
		return ""
	}
	return frameOf(v.Block, v.painter.visit)
}

// Told is where a press on what is loaded in place is told; empty where nobody counts.
func (v blockView) Told() string {
	leads := v.painter.link(v.Key, "")
	for _, target := range v.Targets() {
		if leads == target.Address || !strings.Contains(leads, "/-/") {
			return ""
		}
	}
	return leads
}
