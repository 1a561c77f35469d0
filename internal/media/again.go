package media

import (
	"bytes"
	"encoding/binary"
	"image"
)

// Again is a picture or a drawing that comes back after it was taken out: one that is
// still as we encode them is kept as it is, byte for byte, and any other is encoded anew.
// One larger than any
// that is kept is none. It answers ErrNoPicture or ErrNoDrawing.
func (t Turn) Again(data []byte) (File, error) {
	if bytes.HasPrefix(bytes.TrimSpace(data), []byte("<")) {
		return Drawing(data)
	}
	// None that we keep is larger, and a small file may hold a very large one.
	config, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || config.Width > maxOriginal || config.Height > maxOriginal {
		return File{}, ErrNoPicture
	}
	decoded, err := t.Decode(data)
	if err != nil {
		return File{}, err
	}
	if isBareJPEG(data) {
		return newFile(data, ".jpg", decoded.Bounds().Size()), nil
	}
	return encode(upright(fit(decoded, maxOriginal, reduce), orientation(data)))
}

// isBareJPEG tells whether a JPEG holds nothing but a picture, as our encoder writes it:
// tables, one frame, one scan, and nothing before, between or after (ITU-T T.81, Annex B).
func isBareJPEG(data []byte) bool {
	const startOfScan, endOfImage = 0xda, 0xd9
	plain := map[byte]bool{0xdb: true, 0xc0: true, 0xc4: true} // DQT, SOF0, DHT
	if !bytes.HasPrefix(data, []byte{0xff, 0xd8}) {
		return false
	}
	for at := 2; at+4 <= len(data) && data[at] == 0xff; {
		marker, length := data[at+1], int(binary.BigEndian.Uint16(data[at+2:]))
		if marker != startOfScan {
			if !plain[marker] {
				return false
			}
			at += 2 + length
			continue
		}
		// In a scan, a marker is any 0xff but a stuffed one.
		for at += 2 + length; at+1 < len(data); at++ {
			if data[at] == 0xff && data[at+1] != 0 {
				return data[at+1] == endOfImage && at+2 == len(data)
			}
		}
	}
	return false
}

// CheckUpload refuses what is none of the files that are kept as they are, by their
// ending: films, and files to hand out.
func CheckUpload(data []byte, ending string) error {
	if ending == DownloadEnding {
		if len(data) == 0 {
			return ErrEmptyFile
		}
		return nil
	}
	found, err := FilmEnding(data)
	if err == nil && (found != ending || len(data) > MaxFilm) {
		err = ErrNoFilm
	}
	return err
}
