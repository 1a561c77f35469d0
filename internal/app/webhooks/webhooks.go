// Package webhooks sends what waits for webhooks: signed as Standard Webhooks has it, in turn, and
// tried again at growing pauses. What is said stands in core/webhook.
package webhooks

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"fmt"
	"log/slog"
	mathrand "math/rand/v2"
	"strconv"
	"strings"
	"time"

	standardwebhooks "github.com/standard-webhooks/standard-webhooks/libraries/go"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/webhook"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const (
	// perRound is how many messages are sent in one round, and sentAtOnce how many at one time.
	perRound   = 60
	sentAtOnce = 4
	// secretBytes is how long a secret is: Standard Webhooks wants 24 to 64 bytes.
	secretBytes = 32
	// gone is the status with which an address says that it wants no more (RFC 9110 s15.5.11, and the
	// scheme).
	gone = 410
)

// Sender sends messages to webhooks.
type Sender struct {
	Store    *store.Store
	Outbound *outbound.Client
	Now      func() time.Time
}

// NewSecret makes a secret to sign with.
func NewSecret() string {
	secret := make([]byte, secretBytes)
	_, _ = rand.Read(secret) // never fails
	return "whsec_" + base64.StdEncoding.EncodeToString(secret)
}

// SendDue sends messages that are due, a round of them.
func (s Sender) SendDue(ctx context.Context) error {
	due, err := s.Store.TakeDueDeliveries(ctx, s.Now(), perRound)
	if err != nil {
		return err
	}
	var round errgroup.Group
	round.SetLimit(sentAtOnce)
	for _, one := range due {
		round.Go(func() error {
			sent := s.send(ctx, one)
			if ctx.Err() != nil {
				return nil // that it was broken off says nothing; it comes again
			}
			return s.Store.KeepDelivery(ctx, one, sent)
		})
	}
	return round.Wait()
}

func (s Sender) send(ctx context.Context, one store.DueDelivery) store.Sent {
	sent := store.Sent{At: s.Now(), State: store.Failed}
	header, err := Header(one, sent.At)
	if err == nil {
		sent.Status, err = s.Outbound.Send(ctx, "POST", one.Address, header, []byte(one.Body))
	}
	sent.NextAt = sent.At
	if err != nil {
		sent.Failure = outbound.Reason(err)
	}
	switch {
	case err == nil && sent.Status >= 200 && sent.Status < 300:
		sent.State = store.Delivered
		return sent
	case sent.Status == gone:
		sent.Off = "Its address answered that it is gone (410)."
		return sent
	}
	pause, again := webhook.Next(one.Attempts+1, mathrand.Float64())
	if again {
		sent.State, sent.NextAt = store.Waiting, sent.At.Add(pause)
		return sent
	}
	sent.Off = fmt.Sprintf("A message of %s could not be delivered for three days.", one.CreatedAt.UTC().Format("2 January"))
	slog.Info("a webhook was turned off", "webhook", one.WebhookID, "status", sent.Status, "failure", sent.Failure)
	return sent
}

// Header is what a message is sent with: signed with the secret and, while that holds, with the one
// before too.
func Header(one store.DueDelivery, at time.Time) (map[string]string, error) {
	id := MessageID(one.ID.String())
	signatures, err := Signatures(id, at, one.Body, one.Secret, one.OldSecret)
	if err != nil {
		return nil, fmt.Errorf("sign a message: %w", err)
	}
	return map[string]string{
		"Content-Type": "application/json", "User-Agent": "Jundle webhooks", standardwebhooks.HeaderWebhookID: id,
		standardwebhooks.HeaderWebhookTimestamp: strconv.FormatInt(at.Unix(), 10), standardwebhooks.HeaderWebhookSignature: signatures,
	}, nil
}

// Signatures are what a message is signed with by each secret that is not empty, with blanks between.
func Signatures(id string, at time.Time, body string, secrets ...string) (string, error) {
	var signatures []string
	for _, secret := range secrets {
		if secret == "" {
			continue
		}
		signer, err := standardwebhooks.NewWebhook(secret)
		if err != nil {
			return "", err
		}
		signature, err := signer.Sign(id, at, []byte(body))
		if err != nil {
			return "", err
		}
		signatures = append(signatures, signature)
	}
	return strings.Join(signatures, " "), nil
}

// MessageID is the ID a message bears, the same however often it is sent.
func MessageID(delivery string) string { return "msg_" + strings.ReplaceAll(delivery, "-", "") }
