package passwords

import (
	"bufio"
	"bytes"
	"compress/gzip"
	_ "embed"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"
)

//go:embed libdata/common.txt.gz
var commonList []byte

// common are passwords that many people have. Source: zxcvbn-ts, its list of
// common passwords.
var common = sync.OnceValue(func() map[string]bool {
	unpacked, err := gzip.NewReader(bytes.NewReader(commonList))
	if err != nil {
		panic(err) // it ships with the program, and a test reads it
	}
	list := make(map[string]bool)
	lines := bufio.NewScanner(unpacked)
	for lines.Scan() {
		list[lines.Text()] = true
	}
	return list
})

// isCommon tells whether a password is on the list, or a word of it with figures and
// signs around.
func isCommon(plain string) bool {
	word := strings.TrimFunc(plain, func(r rune) bool { return !unicode.IsLetter(r) })
	return common()[plain] || word != "" && common()[word]
}

// Refusal is why a password is refused: a sentence for whoever chose it.
type Refusal string

func (r Refusal) Error() string { return string(r) }

// The refusals.
const (
	ErrLength Refusal = "A password has 12 to 128 characters. A few words in a row are easy to remember."
	ErrCommon Refusal = "Many people have this password, so it is tried first. A few words of your own in a row are easy to remember."
	ErrSimple Refusal = "This password is a few characters over and over, or a row of the keyboard. A few words of your own are " +
		"easier to remember."
	ErrPersonal Refusal = "This password is hardly more than your own address, and that is tried first. A few words in a row are easy " +
		"to remember."
)

// Check refuses a password that would be guessed: too short or too long, on the
// list of common ones, of hardly any different characters, a run of the keyboard
// or the alphabet, or made of what is known of whoever chooses it. Source: NIST
// SP 800-63B, section 5.1.1.2.
func Check(password string, known ...string) error {
	if utf8.RuneCountInString(password) < Min || len(password) > Max {
		return ErrLength
	}
	plain := strings.ToLower(strings.TrimSpace(password))
	if isCommon(plain) {
		return ErrCommon
	}
	if distinct(plain) < 4 || isRun(plain) {
		return ErrSimple
	}
	for _, word := range known {
		name, _, _ := strings.Cut(strings.ToLower(word), "@")
		left := strings.NewReplacer(strings.ToLower(word), "", name, "").Replace(plain)
		if name != "" && utf8.RuneCountInString(left) < 4 {
			return ErrPersonal
		}
	}
	return nil
}

func distinct(text string) int {
	seen := make(map[rune]bool)
	for _, r := range text {
		seen[r] = true
	}
	return len(seen)
}

// runs are rows that people slide along.
var runs = []string{"0123456789012345678901234567890", "abcdefghijklmnopqrstuvwxyz", "qwertyuiopasdfghjklzxcvbnm"}

// isRun tells whether a text is a piece of a row, forwards or backwards.
func isRun(text string) bool {
	for _, row := range runs {
		if strings.Contains(row, text) || strings.Contains(row, reversed(text)) {
			return true
		}
	}
	return false
}

func reversed(text string) string {
	runes := []rune(text)
	for i, j := 0, len(runes)-1; i < j; i, j = i+1, j-1 {
		runes[i], runes[j] = runes[j], runes[i]
	}
	return string(runes)
}
