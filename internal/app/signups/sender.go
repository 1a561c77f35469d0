// Package signups hands on those who left their e-mail address on a page: as a table, and to
// the service that a creator sends letters with.
//
// Each person is one resource there, put by PUT and taken off by DELETE, so that to be told
// twice is to be told once (RFC 9110 s9.2.2). It is tried again at growing pauses.
package signups

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"time"

	"golang.org/x/sync/errgroup"

	"jundle/internal/core/signup"
	"jundle/internal/core/webhook"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const (
	// perRound is how many are told in one round, and atOnce how many at one time.
	perRound = 60
	atOnce   = 4
	// notThere and gone are answers by which somebody is not on a list (RFC 9110 s15.5.5 and 11).
	notThere, gone = 404, 410
)

// Sender tells list services.
type Sender struct {
	Store    *store.Store
	Outbound *outbound.Client
	Now      func() time.Time
}

// member is somebody on a list, as the service reads it.
type member struct {
	Email       string     `json:"email"`
	Status      string     `json:"status"`
	Source      string     `json:"source,omitempty"`
	Page        string     `json:"page"`
	Consent     string     `json:"consent,omitempty"`
	Language    string     `json:"language"`
	ConfirmedAt *time.Time `json:"confirmedAt"`
}

// SendDue tells a round of those that are due.
func (s Sender) SendDue(ctx context.Context) error {
	due, err := s.Store.TakeDueMembers(ctx, s.Now(), perRound)
	if err != nil {
		return err
	}
	var round errgroup.Group
	round.SetLimit(atOnce)
	for _, one := range due {
		round.Go(func() error {
			came := s.send(ctx, one)
			if ctx.Err() != nil {
				return nil // that it was broken off says nothing; it comes again
			}
			return s.Store.KeepMember(ctx, one, came)
		})
	}
	return round.Wait()
}

func (s Sender) send(ctx context.Context, one store.DueMember) store.Handed {
	came := store.Handed{At: s.Now()}
	address := signup.ListWish{Address: one.Service, List: one.List}.Member(one.ID.String())
	method, body := "DELETE", []byte(nil)
	var err error
	if one.Present {
		method = "PUT"
		body, err = json.Marshal(member{
			one.Address, "confirmed", one.From, one.PageName, one.Consent, one.Language, one.ConfirmedAt,
		})
	}
	if err == nil {
		came.Status, err = s.Outbound.Send(ctx, method, address, map[string]string{
			"Authorization": "Bearer " + one.Token, "Content-Type": "application/json", "User-Agent": "Jundle sign-ups",
		}, body)
	}
	if err != nil {
		came.Failure = outbound.Reason(err)
	}
	ok := err == nil && came.Status >= 200 && came.Status < 300
	forgotten := err == nil && !one.Present && (came.Status == notThere || came.Status == gone)
	if ok || forgotten {
		came.Done = true
		return came
	}
	pause, again := webhook.Next(one.Attempts+1, rand.Float64())
	came.NextAt = came.At.Add(pause)
	if !again {
		came.NextAt = came.At.Add(24 * time.Hour)
		came.Off = fmt.Sprintf("It did not take somebody for three days; its last answer was %s.", answerOf(came))
		slog.Info("a list service was turned off", "workspace", one.WorkspaceID, "status", came.Status, "failure", came.Failure)
	}
	return came
}

func answerOf(came store.Handed) string {
	if came.Status == 0 {
		return "none"
	}
	return fmt.Sprint(came.Status)
}
