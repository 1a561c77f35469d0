package signup_test

import (
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/core/signup"
)

// The first eight are what browsers take and refuse by the HTML Living Standard's own
// pattern; those with internationalised hosts are written as RFC 5891 has them.
func TestAnAddressIsReadAsBrowsersReadIt(t *testing.T) {
	for typed, want := range map[string]string{
		"rolf@kiln.example": "rolf@kiln.example", " Rolf@Kiln.Example ": "Rolf@kiln.example",
		"o'neil+clay@kiln.example": "o'neil+clay@kiln.example",
		"rolf":                     "", "rolf@": "", "@kiln.example": "", "rolf@kiln..example": "", "rolf kiln@kiln.example": "",
		"rolf@localhost": "", "rolf@kiln.example, eva@kiln.example": "", "rolf@bücher.example": "rolf@xn--bcher-kva.example",
		"<rolf@kiln.example>": "", "rolf@kiln.example\r\nBcc: all@kiln.example": "", "rolf@[127.0.0.1]": "",
		strings.Repeat("a", 65) + "@kiln.example": "", strings.Repeat("a", 64) + "@" + strings.Repeat("b.", 100) + "example": "",
	} {
		written, key, err := signup.Address(typed)
		assert.Equal(t, want, written, typed)
		assert.Equal(t, strings.ToLower(want), key, typed)
		assert.Equal(t, want == "", errors.Is(err, signup.ErrAddress), typed)
	}
}

func TestAListServiceIsReachedByHTTPSAndNamesItsList(t *testing.T) {
	good := signup.ListWish{Address: "https://lists.example/v1/", List: "studio-letter", Token: " key-1 "}
	clean, err := good.Clean()
	require.NoError(t, err)
	assert.Equal(t, "https://lists.example/v1/lists/studio-letter/members/a%2Fb", clean.Member("a/b"))
	for field, change := range map[string]func(*signup.ListWish){
		"address": func(w *signup.ListWish) { w.Address = "http://lists.example/" },
		"list":    func(w *signup.ListWish) { w.List = "../admin" },
		"token":   func(w *signup.ListWish) { w.Token = "a\r\nX-Admin: 1" },
	} {
		wish := good
		change(&wish)
		_, err := wish.Clean()
		var wrong *signup.Error
		require.ErrorAs(t, err, &wrong, field)
		assert.Equal(t, field, wrong.Field)
	}
}

func FuzzAddress(f *testing.F) {
	f.Add("rolf@bücher.example")
	f.Fuzz(func(t *testing.T, typed string) {
		written, key, err := signup.Address(typed)
		if err == nil && (strings.ContainsAny(written, " \r\n,<>\"") || key == "" || len(written) > signup.MaxAddress) {
			t.Fatalf("%q", written)
		}
		if again, same, err := signup.Address(written); written != "" && (err != nil || again != written || same != key) {
			t.Fatalf("%q is read as %q, %v", written, again, err)
		}
	})
}
