// Package compress packs what is served many times once, as well as it goes.
package compress

import (
	"bytes"
	"compress/gzip"
)

// Gzip packs bytes (RFC 1952).
func Gzip(plain []byte) ([]byte, error) {
	var packed bytes.Buffer
	writer, err := gzip.NewWriterLevel(&packed, gzip.BestCompression)
	if err != nil {
		return nil, err
	}
	if _, err := writer.Write(plain); err != nil {
		return nil, err
	}
	err = writer.Close()
	return packed.Bytes(), err
}
