package media

import (
	"image"
	"image/draw"

	"github.com/kovidgoyal/imaging"
	ximage "golang.org/x/image/draw"

	"jundle/internal/core/picture"
)

// resize draws a picture at a width and height by a filter that keeps edges sharp.
func resize(of image.Image, width, height int) *image.NRGBA {
	return imaging.AsNRGBA(imaging.Resize(of, max(1, width), max(1, height), imaging.CatmullRom))
}

// halved halves a picture, every pixel the mean of four, for as long as it is so many times as wide and as high as said.
func halved(of image.Image, width, height, times int) image.Image {
	for size := of.Bounds().Size(); size.X >= times*max(1, width) && size.Y >= times*max(1, height); size = of.Bounds().Size() {
		half := image.NewRGBA(image.Rect(0, 0, size.X/2, size.Y/2))
		ximage.ApproxBiLinear.Scale(half, half.Bounds(), of, of.Bounds(), ximage.Src, nil)
		of = half
	}
	return of
}

// reduce draws a picture at a width and height by a filter that looks at four pixels only: for what is scaled once more before it is shown.
func reduce(of image.Image, width, height int) *image.NRGBA {
	of = halved(of, width, height, 3)
	drawn := image.NewRGBA(image.Rect(0, 0, max(1, width), max(1, height)))
	ximage.ApproxBiLinear.Scale(drawn, drawn.Bounds(), of, of.Bounds(), ximage.Src, nil)
	return imaging.AsNRGBA(drawn)
}

// average draws a picture at a width and height by a filter that makes no colour that is not there.
func average(of image.Image, width, height int) *image.NRGBA {
	return imaging.AsNRGBA(imaging.Resize(of, max(1, width), max(1, height), imaging.Box))
}

// fit scales a picture down to fit into a square; a smaller one is drawn as it is.
func fit(of image.Image, side int, by func(of image.Image, width, height int) *image.NRGBA) *image.NRGBA {
	size := of.Bounds().Size()
	if size.X <= side && size.Y <= side {
		drawn := image.NewNRGBA(image.Rectangle{Max: size})
		draw.Draw(drawn, drawn.Bounds(), of, of.Bounds().Min, draw.Src)
		return drawn
	}
	if size.X >= size.Y {
		return by(of, side, (size.Y*side+size.X/2)/size.X)
	}
	return by(of, (size.X*side+size.Y/2)/size.Y, side)
}

// crop copies a part of a picture.
func crop(of *image.NRGBA, area image.Rectangle) *image.NRGBA {
	drawn := image.NewNRGBA(image.Rectangle{Max: area.Size()})
	draw.Draw(drawn, drawn.Bounds(), of, area.Min, draw.Src)
	return drawn
}

// remap makes a picture of that size out of another, pixel by pixel.
func remap(of *image.NRGBA, width, height int, from func(x, y int) (int, int)) *image.NRGBA {
	drawn := image.NewNRGBA(image.Rect(0, 0, width, height))
	for y := range height {
		for x := range width {
			fromX, fromY := from(x, y)
			copy(drawn.Pix[drawn.PixOffset(x, y):][:4], of.Pix[of.PixOffset(fromX, fromY):][:4])
		}
	}
	return drawn
}

func flipX(of *image.NRGBA) *image.NRGBA {
	w, h := of.Bounds().Dx(), of.Bounds().Dy()
	return remap(of, w, h, func(x, y int) (int, int) { return w - 1 - x, y })
}

func flipY(of *image.NRGBA) *image.NRGBA {
	w, h := of.Bounds().Dx(), of.Bounds().Dy()
	return remap(of, w, h, func(x, y int) (int, int) { return x, h - 1 - y })
}

// rotate turns a picture clockwise, by 0, 90, 180 or 270 degrees.
func rotate(of *image.NRGBA, degrees int) *image.NRGBA {
	w, h := of.Bounds().Dx(), of.Bounds().Dy()
	switch degrees {
	case 90:
		return remap(of, h, w, func(x, y int) (int, int) { return y, h - 1 - x })
	case 180:
		return remap(of, w, h, func(x, y int) (int, int) { return w - 1 - x, h - 1 - y })
	case 270:
		return remap(of, h, w, func(x, y int) (int, int) { return w - 1 - y, x })
	}
	return of
}

// upright turns a photograph the way it was held.
func upright(of *image.NRGBA, held int) *image.NRGBA {
	switch held {
	case 2:
		return flipX(of)
	case 3:
		return rotate(of, 180)
	case 4:
		return flipY(of)
	case 5:
		return rotate(flipY(of), 90)
	case 6:
		return rotate(of, 90)
	case 7:
		return rotate(flipX(of), 90)
	case 8:
		return rotate(of, 270)
	}
	return of
}

// turn flips and turns a picture as a cut says.
func turn(of *image.NRGBA, cut picture.Cut) *image.NRGBA {
	if cut.FlipX {
		of = flipX(of)
	}
	if cut.FlipY {
		of = flipY(of)
	}
	return rotate(of, cut.Turn)
}
