package core_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// allowedOutside lists what core may import beyond the standard library and
// itself: numerics, the one parser that follows the WHATWG URL standard, how
// currencies are written (ISO 4217 and CLDR as data), and a bounded memory of what was worked out.
var allowedOutside = []string{
	"gonum.org/", "golang.org/x/", "github.com/nlnwa/whatwg-url/", "github.com/bojanz/currency", "github.com/mozillazg/go-unidecode",
	"github.com/nicksnyder/go-i18n/v2/", "github.com/hashicorp/golang-lru/v2",
}

// forbiddenStandard are the parts of the standard library that would let a rule
// reach outside its arguments.
var forbiddenStandard = []string{"net/http", "database/sql", "os", "os/exec", "math/rand", "math/rand/v2", "crypto/rand"}

func sourceFiles(t *testing.T, visit func(path string, file *ast.File)) {
	t.Helper()
	err := filepath.WalkDir(".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return err
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err == nil {
			visit(path, file)
		}
		return err
	})
	require.NoError(t, err)
}

func TestCoreImportsNothingThatReachesOutside(t *testing.T) {
	seen := 0
	sourceFiles(t, func(path string, file *ast.File) {
		seen++
		for _, spec := range file.Imports {
			name, err := strconv.Unquote(spec.Path.Value)
			require.NoError(t, err)
			assert.True(t, mayImport(name), "%s imports %s", path, name)
		}
	})
	assert.Greater(t, seen, 5, "the walk must have found the rules")
}

func mayImport(name string) bool {
	for _, bad := range forbiddenStandard {
		if name == bad {
			return false
		}
	}
	if strings.HasPrefix(name, "jundle/") {
		return strings.HasPrefix(name, "jundle/internal/core/")
	}
	for _, prefix := range allowedOutside {
		if strings.HasPrefix(name, prefix) {
			return true
		}
	}
	return !strings.Contains(strings.Split(name, "/")[0], ".")
}

func TestCoreNeverReadsTheClock(t *testing.T) {
	clock := map[string]bool{
		"Now": true, "Since": true, "Until": true, "Sleep": true, "After": true, "Tick": true, "NewTimer": true,
		"NewTicker": true,
	}
	sourceFiles(t, func(path string, file *ast.File) {
		ast.Inspect(file, func(node ast.Node) bool {
			if selector, ok := node.(*ast.SelectorExpr); ok {
				if pkg, ok := selector.X.(*ast.Ident); ok && pkg.Name == "time" && pkg.Obj == nil {
					assert.False(t, clock[selector.Sel.Name], "%s uses time.%s", path, selector.Sel.Name)
				}
			}
			return true
		})
	})
}

func TestTheImportRuleItselfRefusesWhatItShould(t *testing.T) {
	for _, name := range []string{"net/http", "jundle/internal/store", "gorm.io/gorm", "github.com/gin-gonic/gin", "math/rand/v2"} {
		assert.False(t, mayImport(name), name)
	}
	for _, name := range []string{"time", "net/netip", "jundle/internal/core/page", "golang.org/x/net/publicsuffix"} {
		assert.True(t, mayImport(name), name)
	}
}
