package standin_test

import (
	"io"
	"net/http"
	"net/http/httptest"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/media"
	"jundle/internal/outbound"
	"jundle/internal/standin"
)

func start(t *testing.T) *httptest.Server {
	t.Helper()
	server := httptest.NewServer(standin.New(
		map[string]string{"photoloft/quarrowclay": "http://127.0.0.1:8090/quarrow-clay/loft"}, standin.Parts{Mailbox: standin.NewMailbox()},
	))
	t.Cleanup(server.Close)
	return server
}

func TestAMadeUpSiteDescribesItselfThroughTheOrdinaryClient(t *testing.T) {
	server := start(t)
	client := outbound.New(outbound.Options{Reroute: func(address *url.URL) *url.URL { return standin.Locate(server.URL, address) }})
	found, err := client.Describe(t.Context(), "https://shop.quarrow.example/seconds")
	require.NoError(t, err)
	assert.Equal(t, "Seconds sale", found.Title)
	turn, err := media.TakeTurn(t.Context())
	require.NoError(t, err)
	defer turn.Done()
	picture, err := turn.Original(found.Picture)
	require.NoError(t, err)
	assert.Equal(t, 360, picture.Width)

	found, err = client.Describe(t.Context(), "https://nobody.example/spring-fair")
	require.NoError(t, err)
	assert.Equal(t, "Spring fair", found.Title)
}

func TestOnlyMadeUpHostsAreLocatedHere(t *testing.T) {
	for address, want := range map[string]string{
		"https://kiln.example/a?b=c#d": "http://here/web/kiln.example/a?b=c#d",
		"https://kiln.example.com/":    "", "mailto:x@kiln.example": "", "http://127.0.0.1/": "",
	} {
		parsed, err := url.Parse(address)
		require.NoError(t, err)
		got := ""
		if located := standin.Locate("http://here", parsed); located != nil {
			got = located.String()
		}
		assert.Equal(t, want, got, address)
	}
}

func TestAProfileHoldsOneLinkAndTellsNothingOfWhereItIs(t *testing.T) {
	server := start(t)
	answer, err := http.PostForm(server.URL+"/profile/pinmoss/ilse", url.Values{"link": {"http://127.0.0.1:8090/ilse/moss"}})
	require.NoError(t, err)
	defer answer.Body.Close()
	assert.Equal(t, "no-referrer", answer.Header.Get("Referrer-Policy"))
	body, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	assert.Contains(t, string(body), `<a rel="noreferrer" href="http://127.0.0.1:8090/ilse/moss">`)

	refused, err := http.PostForm(server.URL+"/profile/pinmoss/ilse", url.Values{"link": {"javascript:alert(1)"}})
	require.NoError(t, err)
	defer refused.Body.Close()
	assert.Equal(t, http.StatusBadRequest, refused.StatusCode)
}
