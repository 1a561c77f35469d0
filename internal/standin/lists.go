package standin

import (
	"maps"
	"net/http"
	"slices"
	"strings"
	"sync"

	"github.com/gin-gonic/gin"
)

const (
	// ListsHost is the made-up host of a service that letters are sent with.
	ListsHost = "lists.example"
	// ListsToken is what it lets in by.
	ListsToken = "quarrow-key"
	// subscribersKept and subscriberSize bound what it keeps.
	subscribersKept = 10_000
	subscriberSize  = 8 << 10
)

// Subscriber is somebody on a list.
type Subscriber struct {
	ID     string `json:"id"`
	List   string `json:"list"`
	Email  string `json:"email"`
	Status string `json:"status"`
	Source string `json:"source"`
	// Puts is how often somebody was put on the list under this ID.
	Puts int `json:"puts"`
}

// lists are those of the service. While it is down it answers 503.
type lists struct {
	mu      sync.Mutex
	members map[string]Subscriber
	down    bool
}

// addLists answers for ListsHost below /v1: PUT and DELETE of /lists/{list}/members/{id}. Who is on
// them is shown below /lists; a POST to /lists/down and /lists/up takes it down and up again.
func (s *Server) addLists() {
	l := &lists{members: make(map[string]Subscriber)}
	at := "/web/" + ListsHost + "/v1/lists/:list/members/:id"
	s.engine.PUT(at, l.admit(l.put))
	s.engine.DELETE(at, l.admit(l.remove))
	s.engine.GET("/lists", func(c *gin.Context) { answer(c, "lists", l.all()) })
	s.engine.GET("/lists.json", func(c *gin.Context) { c.JSON(http.StatusOK, l.all()) })
	for path, down := range map[string]bool{"/lists/down": true, "/lists/up": false} {
		s.engine.POST(path, func(c *gin.Context) {
			l.mu.Lock()
			defer l.mu.Unlock()
			l.down = down
			c.Status(http.StatusNoContent)
		})
	}
}

// admit lets in whoever brings the token, while the service is up.
func (l *lists) admit(do gin.HandlerFunc) gin.HandlerFunc {
	return func(c *gin.Context) {
		l.mu.Lock()
		defer l.mu.Unlock()
		switch {
		case l.down:
			c.Status(http.StatusServiceUnavailable)
		case c.GetHeader("Authorization") != "Bearer "+ListsToken:
			c.Status(http.StatusUnauthorized)
		default:
			do(c)
		}
	}
}

func (l *lists) put(c *gin.Context) {
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, subscriberSize)
	var member Subscriber
	if err := c.BindJSON(&member); err != nil || !strings.Contains(member.Email, "@") {
		c.Status(http.StatusBadRequest)
		return
	}
	member.ID, member.List = c.Param("id"), c.Param("list")
	before, there := l.members[member.List+"/"+member.ID]
	if !there && len(l.members) >= subscribersKept {
		c.Status(http.StatusInsufficientStorage)
		return
	}
	member.Puts = before.Puts + 1
	l.members[member.List+"/"+member.ID] = member
	if there {
		c.Status(http.StatusOK)
		return
	}
	c.Status(http.StatusCreated)
}

func (l *lists) remove(c *gin.Context) {
	key := c.Param("list") + "/" + c.Param("id")
	if _, there := l.members[key]; !there {
		c.Status(http.StatusNotFound)
		return
	}
	delete(l.members, key)
	c.Status(http.StatusNoContent)
}

// all are those on the lists, by their addresses.
func (l *lists) all() []Subscriber {
	l.mu.Lock()
	defer l.mu.Unlock()
	all := slices.AppendSeq([]Subscriber{}, maps.Values(l.members))
	slices.SortFunc(all, func(a, b Subscriber) int { return strings.Compare(a.Email+a.ID, b.Email+b.ID) })
	return all
}
