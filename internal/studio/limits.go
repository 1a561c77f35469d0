package studio

import (
	"fmt"
	"math"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"
)

// Attempts to sign in or up: so many at once, and one more after each pause.
const (
	attemptsPerEmail  = 8
	attemptsPerClient = 100
	attemptPause      = 2 * time.Minute
)

// Titles and pictures a workspace may have fetched: so many at once, and one
// more after each pause.
const (
	fetchesPerWorkspace = 60
	fetchPause          = 2 * time.Second
)

// Files a workspace may upload: so many at once, and one more after each pause.
const (
	uploadsPerWorkspace = 150
	uploadPause         = 2 * time.Second
)

// rateLimits bounds how often somebody may try to get in, by the e-mail address tried
// and by where the attempts come from. The least recent of many are forgotten,
// so that memory is bounded too.
type rateLimits struct {
	now     func() time.Time
	emails  *lru.Cache[string, *rate.Limiter]
	clients *lru.Cache[string, *rate.Limiter]
	fetches *lru.Cache[string, *rate.Limiter]
	uploads *lru.Cache[string, *rate.Limiter]
}

func newRateLimits(now func() time.Time) *rateLimits {
	emails, _ := lru.New[string, *rate.Limiter](50_000)
	clients, _ := lru.New[string, *rate.Limiter](50_000)
	fetches, _ := lru.New[string, *rate.Limiter](50_000)
	uploads, _ := lru.New[string, *rate.Limiter](50_000)
	return &rateLimits{now: now, emails: emails, clients: clients, fetches: fetches, uploads: uploads}
}

// take uses up one attempt, or says how long to wait.
func (a *rateLimits) take(email, client string) error {
	wait := max(
		a.wait(a.emails, email, attemptsPerEmail, attemptPause),
		a.wait(a.clients, client, attemptsPerClient, attemptPause),
	)
	if wait == 0 {
		return nil
	}
	return tooMany(fmt.Sprintf("There were too many attempts. Wait %d minutes and try again.", int(math.Ceil(wait.Minutes()))), wait)
}

func tooMany(says string, wait time.Duration) error {
	refusal := huma.NewError(http.StatusTooManyRequests, says)
	return huma.ErrorWithHeaders(refusal, http.Header{"Retry-After": {fmt.Sprint(int(math.Ceil(wait.Seconds())))}})
}

// takeUpload uses up one upload of a workspace, or says how long to wait.
func (a *rateLimits) takeUpload(workspace string) error {
	wait := a.wait(a.uploads, workspace, uploadsPerWorkspace, uploadPause)
	if wait == 0 {
		return nil
	}
	return tooMany("These were many files in a short time. Wait a few seconds and go on; what was uploaded is kept.", wait)
}

// mayFetch uses up one fetch of a workspace, if it has one left.
func (a *rateLimits) mayFetch(workspace string) bool {
	return a.wait(a.fetches, workspace, fetchesPerWorkspace, fetchPause) == 0
}

func (a *rateLimits) wait(limiters *lru.Cache[string, *rate.Limiter], key string, burst int, pause time.Duration) time.Duration {
	limiter, ok := limiters.Get(key)
	if !ok {
		limiter = rate.NewLimiter(rate.Every(pause), burst)
		limiters.Add(key, limiter)
	}
	reservation := limiter.ReserveN(a.now(), 1)
	delay := reservation.DelayFrom(a.now())
	if delay > 0 {
		reservation.CancelAt(a.now())
	}
	return delay
}
