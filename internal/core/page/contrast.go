package page

import "jundle/internal/core/look"

// Contrast holds all text of a page against what is under it: the page's own colours,
// and those of blocks with looks of their own, whose figures are named
// "blocks/KEY/style/…".
func (d Document) Contrast() []look.Figure {
	figures := look.Figures(d.Look)
	points := d.Look.Ground.Points()
	for _, block := range d.Blocks {
		if block.Style != nil {
			figures = append(figures, block.Style.Buttons.Figures("blocks/"+block.Key+"/style/", points)...)
		}
	}
	return figures
}
