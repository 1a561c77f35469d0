// Package compress packs what is served many times once, as well as it goes.
package compress

import (
	"bytes"
	"compress/gzip"
)

// large is from where on, in bytes, packing as well as it goes takes much longer and gains a few per cent.
const large = 64 << 10

// Gzip packs bytes (RFC 1952).
func Gzip(plain []byte) ([]byte, error) {
	var packed bytes.Buffer
	level := gzip.BestCompression
	if len(plain) > large {
		level = gzip.DefaultCompression
	}
	writer, err := gzip.NewWriterLevel(&packed, level)
	if err != nil {
		return nil, err
	}
	if _, err := writer.Write(plain); err != nil {
		return nil, err
	}
	err = writer.Close()
	return packed.Bytes(), err
}
