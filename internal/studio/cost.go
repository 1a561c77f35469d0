package studio

import (
	"context"
	"errors"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/time/rate"

	"jundle/internal/store"
	"jundle/internal/turns"
)

// costly are the operations that take a processor for long on a large page, because they draw it, compare it or
// read it whole. Codes, pictures, maps and files take turns of their own.
var costly = map[string]bool{
	"add-page": true, "append-blocks": true, "begin-takeover": true, "begin-trial": true, "change-address": true, "check-addresses": true,
	"check-page": true, "choose-variant": true, "compare-edition": true, "draw-sharing-picture": true, "end-takeover": true,
	"end-trial": true, "get-page": true, "get-step": true, "keep-page": true, "list-steps": true, "list-themes": true, "plan-trial": true,
	"preview-page": true, "publish": true, "read-link-list": true, "read-paste": true, "rest-page": true, "save-draft": true,
	"see-page": true, "set-as-edited": true, "wake-page": true, "list-wordings": true, "list-starters": true, "take-out-page": true,
	"get-ribbon": true, "undo-choice": true, "list-choices": true,
}

const (
	// costlyAtOnce is how many of them go on at the same time at most, costlyOfOne how many of one member, and
	// costlyWaiting how many of one member may wait.
	costlyAtOnce  = 4
	costlyOfOne   = 2
	costlyWaiting = 16
	// costlyWithin is how long one waits.
	costlyWithin = 30 * time.Second
	// A member may keep the processor busy for costBurst at once, and for costShare of the time in the long run.
	costBurst = 30 * time.Second
	costShare = 0.5
	// codesAtOnce is how many codes are drawn at the same time. A sheet has one for each of a hundred sources.
	codesAtOnce  = 2
	codesWaiting = 150
)

// costs bounds what members may have worked out at once and in the long run.
type costs struct {
	now    func() time.Time
	turns  *turns.Turns[uuid.UUID]
	codes  *turns.Turns[uuid.UUID]
	budget *lru.Cache[string, *rate.Limiter]
}

func newCosts(now func() time.Time) *costs {
	budget, _ := lru.New[string, *rate.Limiter](50_000)
	return &costs{
		now: now, budget: budget, turns: turns.New[uuid.UUID](turns.Spare(costlyAtOnce), costlyOfOne, costlyWaiting),
		codes: turns.New[uuid.UUID](codesAtOnce, 1, codesWaiting),
	}
}

// begin waits for a turn for an operation that costs much. It answers the function to call when it is done, or
// why there is no turn.
func (c *costs) begin(ctx context.Context, operation string, member store.Member) (done func(), err error) {
	if !costly[operation] {
		return func() {}, nil
	}
	budget := c.of(member)
	// Tokens are milliseconds. What was used beyond them has to be made up for.
	if left := budget.TokensAt(c.now()); left < 0 {
		return nil, tooMany("These were many large requests in a short time. Wait a few seconds and go on; what was saved is kept.",
			time.Duration(-left/costShare)*time.Millisecond)
	}
	ctx, cancel := context.WithTimeout(ctx, costlyWithin)
	given, err := c.turns.Take(ctx, member.ID)
	cancel()
	if err != nil {
		return nil, noTurn(err)
	}
	began := time.Now()
	return func() {
		given()
		spend(budget, c.now(), time.Since(began))
	}, nil
}

// drawsCode waits for a turn to draw a code.
func (c *costs) drawsCode(ctx context.Context) (done func(), err error) {
	ctx, cancel := context.WithTimeout(ctx, costlyWithin)
	defer cancel()
	done, err = c.codes.Take(ctx, memberOf(ctx).ID)
	if err != nil {
		return nil, noTurn(err)
	}
	return done, nil
}

func (c *costs) of(member store.Member) *rate.Limiter {
	who := member.ID.String() + " " + member.Program
	limiter, known := c.budget.Get(who)
	if !known {
		limiter = rate.NewLimiter(rate.Limit(costShare*1000), int(costBurst.Milliseconds()))
		c.budget.Add(who, limiter)
	}
	return limiter
}

// spend takes time off a budget, even where there is not as much left.
func spend(budget *rate.Limiter, now time.Time, took time.Duration) {
	budget.ReserveN(now, min(int(took.Milliseconds()), budget.Burst()))
}

func noTurn(err error) error {
	if errors.Is(err, turns.ErrBusy) {
		return tooMany("You asked for very much at once. Wait a few seconds and try again; what was saved is kept.", 5*time.Second)
	}
	return huma.Error503ServiceUnavailable("There is much to do just now. Try again in a minute; nothing was changed.")
}
