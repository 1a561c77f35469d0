package studio

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"fmt"
	"log/slog"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"

	"jundle/internal/store"
)

// Budgets of attempts to sign in, counted in the database for all processes.
var (
	// onePair is for one e-mail address tried from one network: whoever guesses is
	// stopped, and the owner elsewhere is not.
	onePair = store.Budget{Burst: 8, Pause: 2 * time.Minute}
	// oneNetwork is for all addresses tried from one network.
	oneNetwork = store.Budget{Burst: 100, Pause: 30 * time.Second}
	// oneEmail is for one e-mail address tried from anywhere (ASVS 4.0.3, 2.2.1: at
	// most 100 an hour). Networks its owner signed in from are not held by it.
	oneEmail = store.Budget{Burst: 40, Pause: time.Minute}
	// signUps is for accounts opened, or tried to be, from one network.
	signUps = store.Budget{Burst: 100, Pause: 2 * time.Minute}
	// passwordsAsked is for tries to prove, signed in, that one knows the password.
	passwordsAsked = store.Budget{Burst: 5, Pause: 2 * time.Minute}
	// codesAsked is for codes of the second factor: some 300 a day out of a million, of which three
	// are right at a time.
	codesAsked = store.Budget{Burst: 10, Pause: 5 * time.Minute}
	// lettersToOne is for letters that one network has sent to one e-mail address, lettersToEmail for
	// those that all have sent to it; networks its owner signed in from are not held by it.
	lettersToOne   = store.Budget{Burst: 4, Pause: 10 * time.Minute}
	lettersToEmail = store.Budget{Burst: 20, Pause: 10 * time.Minute}
	// invitationsSent is for invitations of one workspace: its name stands in them, and strangers
	// choose it.
	invitationsSent = store.Budget{Burst: 30, Pause: 30 * time.Minute}
	// tokensTried is for what came in letters, or says that it did.
	tokensTried = store.Budget{Burst: 100, Pause: 10 * time.Second}
)

// knownFor is for how long it is remembered that somebody signed in from a
// network.
const knownFor = 90 * 24 * time.Hour

// Budgets of what is asked of one process: so many at once, and one more after each
// pause. Loading a large page with all its previews stays far below them.
const (
	requestsAtOnce = 300
	requestPause   = 50 * time.Millisecond
	fetchesAtOnce  = 60
	fetchPause     = 2 * time.Second
	uploadsAtOnce  = 150
	uploadPause    = 2 * time.Second
	zipsAtOnce     = 10
	zipPause       = 30 * time.Second
)

// rateLimits bounds how often somebody may ask for what costs something. The least
// recent of many are forgotten, so that memory is bounded too.
type rateLimits struct {
	now                              func() time.Time
	cutPause                         time.Duration
	cutsAtOnce                       int
	requests, fetches, uploads, cuts *lru.Cache[string, *rate.Limiter]
	zips                             *lru.Cache[string, *rate.Limiter]
}

// newRateLimits makes limits; cuts is how many cuts of pictures a workspace may
// make in a minute.
func newRateLimits(now func() time.Time, cuts int) *rateLimits {
	limiters := func() *lru.Cache[string, *rate.Limiter] {
		made, _ := lru.New[string, *rate.Limiter](50_000)
		return made
	}
	return &rateLimits{
		now: now, cutsAtOnce: max(1, cuts), cutPause: time.Minute / time.Duration(max(1, cuts)),
		requests: limiters(), fetches: limiters(), uploads: limiters(), cuts: limiters(), zips: limiters(),
	}
}

func tooMany(says string, wait time.Duration) error {
	refusal := huma.NewError(http.StatusTooManyRequests, says)
	return huma.ErrorWithHeaders(refusal, http.Header{"Retry-After": {fmt.Sprint(int(math.Ceil(wait.Seconds())))}})
}

// takeRequest uses up one request of a member, or of a network on which nobody is
// signed in.
func (a *rateLimits) takeRequest(who string) error {
	wait := a.wait(a.requests, who, requestsAtOnce, requestPause)
	if wait == 0 {
		return nil
	}
	return tooMany("These were many requests in a short time. Wait a few seconds and go on; what was saved is kept.", wait)
}

// left says in the header fields of draft-ietf-httpapi-ratelimit-headers-10 what is left of the requests
// of somebody: how many there are in what time, how many can come at once now, and in how many seconds
// there are all of them again.
func (a *rateLimits) left(who string) map[string]string {
	tokens := float64(requestsAtOnce)
	if limiter, known := a.requests.Peek(who); known {
		tokens = max(0, limiter.TokensAt(a.now()))
	}
	whole := requestsAtOnce * requestPause
	again := math.Ceil((requestsAtOnce - math.Floor(tokens)) * requestPause.Seconds())
	return map[string]string{
		"RateLimit-Policy": fmt.Sprintf(`"requests";q=%d;w=%d`, requestsAtOnce, int(whole.Seconds())),
		"RateLimit":        fmt.Sprintf(`"requests";r=%d;t=%d`, int(tokens), int(again)),
	}
}

// takeUpload uses up one upload of a workspace, or says how long to wait.
func (a *rateLimits) takeUpload(workspace string) error {
	wait := a.wait(a.uploads, workspace, uploadsAtOnce, uploadPause)
	if wait == 0 {
		return nil
	}
	return tooMany("These were many files in a short time. Wait a few seconds and go on; what was uploaded is kept.", wait)
}

// takeZip uses up one zip of a workspace that is packed or unpacked, or says how long to
// wait: pictures in it are decoded, and a small file may hold large ones.
func (a *rateLimits) takeZip(workspace string) error {
	wait := a.wait(a.zips, workspace, zipsAtOnce, zipPause)
	if wait == 0 {
		return nil
	}
	return tooMany("These were many files to be packed in a short time. Wait half a minute and go on; nothing was changed.", wait)
}

// takeCut uses up one cut of a workspace, or says how long to wait.
func (a *rateLimits) takeCut(workspace string) error {
	wait := a.wait(a.cuts, workspace, a.cutsAtOnce, a.cutPause)
	if wait == 0 {
		return nil
	}
	return tooMany(fmt.Sprintf("These were more than %d cuts in a minute. Wait a few seconds and go on; the picture you had is still there.",
		a.cutsAtOnce), wait)
}

// mayFetch uses up one fetch of a workspace, if it has one left.
func (a *rateLimits) mayFetch(workspace string) bool {
	return a.wait(a.fetches, workspace, fetchesAtOnce, fetchPause) == 0
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

// attemptKey is a digest of what is tried by whom, that tells neither.
func (s *Server) attemptKey(parts ...string) []byte {
	mac := hmac.New(sha256.New, s.OwnKey)
	for _, part := range append([]string{"attempt"}, parts...) {
		_, _ = fmt.Fprintf(mac, "%d:%s", len(part), part)
	}
	return mac.Sum(nil)
}

// takeAttempt uses up one attempt of each budget in turn, or says how long to wait.
// What one budget refuses uses up nothing of the next: whoever is stopped on their
// own network cannot use up what others have.
func (s *Server) takeAttempt(ctx context.Context, attempts ...store.Attempt) error {
	for _, attempt := range attempts {
		wait, err := s.Store.TakeAttempt(ctx, attempt, s.Now())
		if err != nil {
			return problem(err)
		}
		if wait > 0 {
			return tooMany("There were too many attempts. Wait "+minutes(wait)+" and try again.", wait)
		}
	}
	return nil
}

// takeSignIn uses up one attempt to sign in with an e-mail address from a network, and tells whether
// somebody signed in with it from there before.
func (s *Server) takeSignIn(ctx context.Context, email, network string) (known bool, err error) {
	return s.takeOfPair(ctx, email, network, []store.Attempt{
		{Key: s.attemptKey("network", network), Budget: oneNetwork},
		{Key: s.attemptKey("pair", email, network), Budget: onePair},
	}, store.Attempt{Key: s.attemptKey("email", email), Budget: oneEmail})
}

// takeLetter uses up one letter to an e-mail address that somebody on a network asks for.
func (s *Server) takeLetter(ctx context.Context, email, network string) error {
	_, err := s.takeOfPair(ctx, email, network, []store.Attempt{
		{Key: s.attemptKey("sign-up", network), Budget: signUps},
		{Key: s.attemptKey("letter pair", email, network), Budget: lettersToOne},
	}, store.Attempt{Key: s.attemptKey("letter", email), Budget: lettersToEmail})
	return err
}

// takeOfPair uses up attempts, and that of all networks unless the owner of an e-mail address
// signed in from this one before: strangers elsewhere do not keep them out.
func (s *Server) takeOfPair(
	ctx context.Context, email, network string, attempts []store.Attempt, ofAll store.Attempt,
) (known bool, err error) {
	known, err = s.Store.Known(ctx, s.attemptKey("known", email, network), s.Now())
	if err != nil {
		return false, problem(err)
	}
	if !known {
		attempts = append(attempts, ofAll)
	}
	return known, s.takeAttempt(ctx, attempts...)
}

// noteSignIn remembers that somebody signed in from a network.
func (s *Server) noteSignIn(ctx context.Context, email, network string) {
	if err := s.Store.NoteAttempt(ctx, s.attemptKey("known", email, network), s.Now().Add(knownFor)); err != nil {
		slog.Warn("a network that somebody signed in from could not be remembered", "error", err)
	}
}

// minutes says how many minutes there are, begun ones whole.
func minutes(wait time.Duration) string {
	if n := int(math.Ceil(wait.Minutes())); n > 1 {
		return strconv.Itoa(n) + " minutes"
	}
	return "a minute"
}
