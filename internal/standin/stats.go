package standin

import (
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"
)

// statsHost is the made-up service of site statistics.
const statsHost = "stats.example"

// countScript tells of a visit to where it came from, as such scripts do.
const countScript = `(() => {
  const from = new URL(document.currentScript.src)
  fetch(from.href.replace(/count\.js.*/, 'hit?site=' + document.currentScript.dataset.site), { method: 'POST' })
})()
`

// maxHits is how many visits of one site are counted, and maxSites of how many.
const (
	maxHits  = 1_000_000
	maxSites = 1000
)

// stats answers for the service of statistics: its script, and what was told to it. It is
// false for all else.
func (s *Server) stats(c *gin.Context, host, path string) bool {
	if host != statsHost {
		return false
	}
	c.Header("Access-Control-Allow-Origin", "*")
	site := c.Query("site")
	switch {
	case path == "/count.js":
		c.Data(http.StatusOK, "text/javascript; charset=utf-8", []byte(countScript))
	case path == "/hits":
		s.mu.Lock()
		defer s.mu.Unlock()
		c.JSON(http.StatusOK, s.hits[site])
	default:
		return false
	}
	return true
}

// hit counts a visit that the script told of.
func (s *Server) hit(c *gin.Context) {
	if c.Param("host") != statsHost || strings.Trim(c.Param("path"), "/") != "hit" {
		c.AbortWithStatus(http.StatusNotFound)
		return
	}
	c.Header("Access-Control-Allow-Origin", "*")
	site := c.Query("site")
	s.mu.Lock()
	if s.hits[site] > 0 && s.hits[site] < maxHits || len(s.hits) < maxSites {
		s.hits[site]++
	}
	s.mu.Unlock()
	c.Status(http.StatusNoContent)
}
