package docs_test

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	verdict = regexp.MustCompile(`^\| \d+\.\d+\.\d+.* \| (met|not yet|n/a) \|(.*)\|$`)
	quoted  = regexp.MustCompile("`([^`]+)`")
)

func TestEveryRequirementCalledMetNamesAFileThatIsThere(t *testing.T) {
	text, err := os.ReadFile("security.md")
	require.NoError(t, err)
	said := map[string]int{}
	for line := range strings.Lines(string(text)) {
		match := verdict.FindStringSubmatch(strings.TrimSpace(line))
		if match == nil {
			continue
		}
		said[match[1]]++
		if match[1] == "met" {
			assert.True(t, namesAFile(match[2]), "names no file that exists: %s", line)
		}
	}
	t.Logf("%v", said)
	assert.Greater(t, said["met"], 100)
}

func namesAFile(evidence string) bool {
	for _, match := range quoted.FindAllStringSubmatch(evidence, -1) {
		if _, err := os.Stat(filepath.Join("..", match[1])); err == nil && strings.Contains(match[1], "/") || match[1] == "Makefile" {
			return true
		}
	}
	return false
}
