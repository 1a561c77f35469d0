package media

import (
	"bytes"
	"encoding/binary"
)

// orientation reads how a photograph was held, 1 to 8, from the Exif of a JPEG; 1
// where it says nothing. Source: CIPA DC-008 (Exif 2.32), tag 0x0112.
func orientation(data []byte) int {
	if len(data) < 4 || data[0] != 0xff || data[1] != 0xd8 {
		return 1
	}
	for at := 2; at+4 <= len(data) && data[at] == 0xff; {
		marker, length := data[at+1], int(binary.BigEndian.Uint16(data[at+2:]))
		if marker == 0xda || length < 2 || at+2+length > len(data) { // the scan begins, or it breaks off
			return 1
		}
		segment := data[at+4 : at+2+length]
		if tiff, found := bytes.CutPrefix(segment, []byte("Exif\x00\x00")); marker == 0xe1 && found {
			return orientationOf(tiff)
		}
		at += 2 + length
	}
	return 1
}

func orientationOf(tiff []byte) int {
	if len(tiff) < 8 {
		return 1
	}
	var order binary.ByteOrder
	switch string(tiff[:4]) {
	case "II*\x00":
		order = binary.LittleEndian
	case "MM\x00*":
		order = binary.BigEndian
	default:
		return 1
	}
	begin := uint64(order.Uint32(tiff[4:]))
	if begin+2 > uint64(len(tiff)) {
		return 1
	}
	const entry = 12
	entries := tiff[begin+2:]
	for range order.Uint16(tiff[begin:]) {
		if len(entries) < entry {
			return 1
		}
		if order.Uint16(entries) == 0x0112 {
			if held := order.Uint16(entries[8:]); held >= 1 && held <= 8 {
				return int(held)
			}
			return 1
		}
		entries = entries[entry:]
	}
	return 1
}
