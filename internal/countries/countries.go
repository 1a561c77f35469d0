// Package countries knows to which country an address belongs, by a vendored table. It
// keeps nothing of the address.
package countries

import (
	"bytes"
	"compress/gzip"
	_ "embed"
	"fmt"
	"io"
	"net/netip"

	"github.com/oschwald/maxminddb-golang/v2"
)

//go:embed libdata/countries.mmdb.gz
var packed []byte

// Table knows where addresses belong. It is safe for concurrent use.
type Table struct{ reader *maxminddb.Reader }

// Load reads the vendored table, which takes as much memory as it has bytes.
func Load() (*Table, error) {
	unpacking, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, fmt.Errorf("table of countries: %w", err)
	}
	table, err := io.ReadAll(unpacking)
	if err != nil {
		return nil, fmt.Errorf("table of countries: %w", err)
	}
	reader, err := maxminddb.OpenBytes(table)
	if err != nil {
		return nil, fmt.Errorf("table of countries: %w", err)
	}
	return &Table{reader}, nil
}

// Of is the country of an address (ISO 3166-1 alpha-2), empty where nobody knows: for
// addresses that are in no country, for what is no address, and for a nil table.
func (t *Table) Of(address string) string {
	if t == nil {
		return ""
	}
	parsed, err := netip.ParseAddr(address)
	if err != nil {
		return ""
	}
	var code string
	if err := t.reader.Lookup(parsed.Unmap().WithZone("")).DecodePath(&code, "country_code"); err != nil || len(code) != 2 {
		return ""
	}
	return code
}
