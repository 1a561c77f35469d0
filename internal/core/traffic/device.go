package traffic

import "strings"

// Device is the class of device a visitor holds.
type Device string

// The classes of device.
const (
	Phone   Device = "phone"
	Tablet  Device = "tablet"
	Desktop Device = "desktop"
)

// Devices lists the classes, most common first.
var Devices = []Device{Phone, Tablet, Desktop}

// DeviceOf tells the class of a device by the user agent. A phone's browser
// says Mobile, a tablet's on the same system does not (Google's advice to makers
// of Android browsers; MDN, Browser detection using the user agent). A tablet
// that asks for desktop pages calls itself a desktop and is taken for one.
func DeviceOf(userAgent string) Device {
	contains := func(mark string) bool { return strings.Contains(userAgent, mark) }
	switch {
	case contains("iPad"), contains("Tablet"), contains("Android") && !contains("Mobi"):
		return Tablet
	case contains("Mobi"), contains("iPhone"), contains("iPod"):
		return Phone
	}
	return Desktop
}
