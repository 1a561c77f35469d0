package app_test

import (
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

// mayNotKnow lists what each layer must not import, itself or from above.
var mayNotKnow = map[string][]string{
	"app":    {"net/http", "github.com/gin-gonic/", "github.com/danielgtaylor/huma/", "jundle/internal/studio", "jundle/internal/public"},
	"store":  {"net/http", "jundle/internal/app/", "jundle/internal/studio", "jundle/internal/public", "jundle/internal/ingest"},
	"render": {"net/http", "jundle/internal/store", "jundle/internal/app/", "jundle/internal/studio", "jundle/internal/public"},
	"ingest": {"github.com/gin-gonic/", "jundle/internal/studio", "jundle/internal/public"},
	"jobs":   {"net/http", "jundle/internal/studio", "jundle/internal/public"},
	"studio": {"jundle/internal/public"},
	"public": {"jundle/internal/studio"},
}

func TestEachLayerKnowsOnlyThoseBelowIt(t *testing.T) {
	for layer, forbidden := range mayNotKnow {
		seen := 0
		err := filepath.WalkDir(filepath.Join("..", layer), func(path string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() || !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
				return err
			}
			seen++
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			require.NoError(t, err)
			for _, spec := range file.Imports {
				name, err := strconv.Unquote(spec.Path.Value)
				require.NoError(t, err)
				for _, bad := range forbidden {
					assert.False(t, name == bad || strings.HasPrefix(name, bad), "%s imports %s", path, name)
				}
			}
			return nil
		})
		require.NoError(t, err)
		assert.Positive(t, seen, layer)
	}
}
