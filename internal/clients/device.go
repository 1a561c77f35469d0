package clients

import (
	"github.com/mileusna/useragent"
)

// Device says what a browser calls itself, as people would: "Firefox on Linux".
func Device(userAgent string) string {
	parsed := useragent.Parse(userAgent)
	switch {
	case parsed.Name == "" && parsed.OS == "":
		return "an unknown browser"
	case parsed.OS == "":
		return parsed.Name
	case parsed.Name == "":
		return "a browser on " + parsed.OS
	}
	return parsed.Name + " on " + parsed.OS
}
