package passwords_test

import (
	"testing"

	"jundle/internal/fuzzing"
	"jundle/internal/passwords"
)

func FuzzCheck(f *testing.F) {
	f.Add("forty hours of fire", "ilse@quarrow.example", "quarrow-clay")
	f.Add("\xff\xff\xff\xff\xff\xff\xff\xff\xff\xff", "", "@")
	f.Fuzz(func(t *testing.T, password, email, page string) {
		fuzzing.Bounded(t, func() {
			if passwords.Check(password, email, page) == nil && (len(password) < passwords.Min || len(password) > passwords.Max) {
				t.Fatalf("%q", password)
			}
		})
	})
}
