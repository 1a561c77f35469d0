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
	attemptsPerClient = 40
	attemptPause      = 2 * time.Minute
)

// attemptLimits bounds how often somebody may try, by the e-mail address tried
// and by where the attempts come from. The least recent of many are forgotten,
// so that memory is bounded too.
type attemptLimits struct {
	now     func() time.Time
	emails  *lru.Cache[string, *rate.Limiter]
	clients *lru.Cache[string, *rate.Limiter]
}

func newAttemptLimits(now func() time.Time) *attemptLimits {
	emails, _ := lru.New[string, *rate.Limiter](50_000)
	clients, _ := lru.New[string, *rate.Limiter](50_000)
	return &attemptLimits{now: now, emails: emails, clients: clients}
}

// take uses up one attempt, or says how long to wait.
func (a *attemptLimits) take(email, client string) error {
	wait := max(
		a.wait(a.emails, email, attemptsPerEmail),
		a.wait(a.clients, client, attemptsPerClient),
	)
	if wait == 0 {
		return nil
	}
	minutes := int(math.Ceil(wait.Minutes()))
	refusal := huma.NewError(http.StatusTooManyRequests, fmt.Sprintf("There were too many attempts. Wait %d minutes and try again.", minutes))
	return huma.ErrorWithHeaders(refusal, http.Header{"Retry-After": {fmt.Sprint(int(math.Ceil(wait.Seconds())))}})
}

func (a *attemptLimits) wait(limiters *lru.Cache[string, *rate.Limiter], key string, burst int) time.Duration {
	limiter, ok := limiters.Get(key)
	if !ok {
		limiter = rate.NewLimiter(rate.Every(attemptPause), burst)
		limiters.Add(key, limiter)
	}
	reservation := limiter.ReserveN(a.now(), 1)
	delay := reservation.DelayFrom(a.now())
	if delay > 0 {
		reservation.CancelAt(a.now())
	}
	return delay
}
