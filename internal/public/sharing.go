package public

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"net/http"
	"strconv"

	"github.com/gin-gonic/gin"

	"jundle/internal/app/sharedpicture"
)

// cachedPictures is how much of drawn pictures is held, in bytes.
const cachedPictures = 24 << 20

// sharingPicture answers with the picture that is shown with posts that lead to a page, drawn
// once an edition, however many ask.
func (s *Server) sharingPicture(c *gin.Context) {
	asked := s.requestOf(c)
	in := asked.locale()
	found, refused := s.reach(asked, c.Param("address"))
	switch {
	case refused != nil:
		refused.write(c)
		return
	case found.page == nil:
		s.notFound(in).write(c)
		return
	}
	live := found.page
	key := editionKey{live.PageID, live.Edition}
	if held, ok := s.pictures.get(key); ok {
		s.handPicture(c, held)
		return
	}
	made, err, _ := s.picturesNow.Do(live.PageID.String()+" "+strconv.Itoa(live.Edition), func() (any, error) {
		ctx, cancel := context.WithTimeout(context.Background(), readWithin)
		defer cancel()
		done, err := s.drawTurns.Take(ctx, live.PageID)
		if err != nil {
			return nil, err
		}
		defer done()
		drawn, err := sharedpicture.Draw(ctx, s.Files, live.Document)
		if err == nil {
			s.pictures.add(key, drawn, weightOfEntry+len(drawn))
		}
		return drawn, err
	})
	if err != nil {
		s.failed(in, err).write(c)
		return
	}
	s.handPicture(c, made.([]byte))
}

func (s *Server) handPicture(c *gin.Context, drawn []byte) {
	sum := sha256.Sum256(drawn)
	etag := `"` + hex.EncodeToString(sum[:12]) + `"`
	c.Header("ETag", etag)
	c.Header("Cache-Control", "public, max-age=3600")
	// Networks show it on pages of their own.
	c.Header("Cross-Origin-Resource-Policy", "cross-origin")
	if c.GetHeader("If-None-Match") == etag {
		c.Status(http.StatusNotModified)
		return
	}
	c.Data(http.StatusOK, "image/png", drawn)
}
