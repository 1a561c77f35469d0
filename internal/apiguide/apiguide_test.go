package apiguide_test

import (
	"context"
	"net/http"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/humatest"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"

	"jundle/internal/apiguide"
	"jundle/internal/core/webhook"
)

// Pot is a schema of the test.
type Pot struct {
	Glaze string `json:"glaze" enum:"ash,celadon" doc:"What <b>it</b> is glazed with."`
	Feet  int    `json:"feet,omitempty"`
}

func TestAGuideNamesEveryOperationAndEveryLinkInItLeadsSomewhere(t *testing.T) {
	_, api := humatest.New(t)
	huma.Register(api, huma.Operation{
		OperationID: "list-pots", Method: http.MethodGet, Path: "/api/pots/{pot}", Summary: "List pots",
		Security: []map[string][]string{{"session": {}}}, Extensions: map[string]any{"x-role": "reads", "x-scope": "workspace"},
	}, func(context.Context, *struct {
		Pot string `path:"pot" doc:"Which."`
	},
	) (*struct{ Body []Pot }, error) {
		return nil, nil
	})
	page, err := apiguide.Write(api.OpenAPI())
	require.NoError(t, err)
	text := string(page)
	for _, part := range []string{
		"/api/pots/{pot}", "List pots", "Whoever reads, or may more, for the whole workspace.", "Which.", "list of Pot", "One of: ash, celadon.",
		"What &lt;b&gt;it&lt;/b&gt; is glazed with.", "may be left out",
	} {
		assert.Contains(t, text, part)
	}
	for _, kind := range webhook.Kinds {
		assert.Contains(t, text, "<dt>"+string(kind)+"</dt>")
	}
	ids, links := map[string]bool{}, []string{}
	root, err := html.Parse(strings.NewReader(text))
	require.NoError(t, err)
	for node := range root.Descendants() {
		assert.NotEqual(t, "script", node.Data)
		for _, attribute := range node.Attr {
			switch {
			case attribute.Key == "id":
				assert.False(t, ids[attribute.Val], "%s stands once", attribute.Val)
				ids[attribute.Val] = true
			case attribute.Key == "href" && strings.HasPrefix(attribute.Val, "#"):
				links = append(links, attribute.Val[1:])
			}
		}
	}
	for _, link := range links {
		assert.True(t, ids[link], link)
	}
}
