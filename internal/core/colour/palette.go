package colour

import (
	"cmp"
	"slices"
)

// MaxPalette is how many colours a palette holds at most.
const MaxPalette = 6

// nearDuplicate is the distance in OKLab below which two colours are one.
const nearDuplicate = 0.05

// Palette returns up to MaxPalette colours that stand for the pixels of a
// picture, largest share first, with near-duplicates merged. The same pixels
// give the same palette.
func Palette(pixels []RGB) []RGB {
	type box struct {
		sum   [3]float64
		count int
	}
	// Bins of 4 bits a channel gather what is nearly the same to begin with.
	bins := make(map[[3]uint8]*box)
	for _, pixel := range pixels {
		key := [3]uint8{pixel.R >> 4, pixel.G >> 4, pixel.B >> 4}
		if bins[key] == nil {
			bins[key] = &box{}
		}
		bin := bins[key]
		bin.sum[0] += float64(pixel.R)
		bin.sum[1] += float64(pixel.G)
		bin.sum[2] += float64(pixel.B)
		bin.count++
	}
	type cluster struct {
		colour RGB
		count  int
	}
	clusters := make([]cluster, 0, len(bins))
	for _, bin := range bins {
		n := float64(bin.count)
		clusters = append(clusters, cluster{RGB{uint8(bin.sum[0] / n), uint8(bin.sum[1] / n), uint8(bin.sum[2] / n)}, bin.count})
	}
	largestFirst := func(a, b cluster) int {
		return cmp.Or(cmp.Compare(b.count, a.count), cmp.Compare(a.colour.Hex(), b.colour.Hex()))
	}
	slices.SortFunc(clusters, largestFirst)
	// What is near a larger colour joins it. The reach widens until few enough
	// are left, so that a gradient does not fill the palette with its steps.
	for reach := nearDuplicate; ; reach *= 1.4 {
		var kept []cluster
		for _, each := range clusters {
			joined := false
			for i := range kept {
				if kept[i].colour.OKLab().Distance(each.colour.OKLab()) < reach {
					kept[i].count += each.count
					joined = true
					break
				}
			}
			if !joined {
				kept = append(kept, each)
			}
		}
		slices.SortFunc(kept, largestFirst)
		clusters = kept
		if len(clusters) <= MaxPalette {
			break
		}
	}
	palette := make([]RGB, len(clusters))
	for i, each := range clusters {
		palette[i] = each.colour
	}
	return palette
}
