package studio_test

import (
	"context"
	"encoding/json"
	"regexp"
	"slices"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"jundle/internal/app/mailing"
	"jundle/internal/mail"
	"jundle/internal/store"
)

// mailbox keeps what was sent.
type mailbox struct {
	mu      sync.Mutex
	letters []mail.Message
}

// deliver sends every letter that was ordered, as the jobs do.
func (b *bench) deliver() {
	b.t.Helper()
	post := mailing.Mailing{
		Store: b.store, Origin: "http://studio.example", Key: []byte("letter key"), Now: func() time.Time { return b.now },
		Send: func(_ context.Context, message mail.Message) error {
			b.mailbox.mu.Lock()
			defer b.mailbox.mu.Unlock()
			b.mailbox.letters = append(b.mailbox.letters, message)
			return nil
		},
	}
	rows, err := b.store.Pool().Query(b.t.Context(), "delete from river_job where kind = 'letter' returning args")
	require.NoError(b.t, err)
	orders, err := pgx.CollectRows(rows, pgx.RowTo[[]byte])
	require.NoError(b.t, err)
	for _, args := range orders {
		var order store.LetterOrder
		require.NoError(b.t, json.Unmarshal(args, &order))
		require.NoError(b.t, post.Deliver(b.t.Context(), order))
	}
}

// lettersTo are the subjects of what was sent to an address since it was last asked, in order.
func (b *bench) lettersTo(address string) (subjects []string) {
	b.t.Helper()
	b.deliver()
	b.mailbox.mu.Lock()
	defer b.mailbox.mu.Unlock()
	b.mailbox.letters = slices.DeleteFunc(b.mailbox.letters, func(letter mail.Message) bool {
		if letter.To != address {
			return false
		}
		subjects = append(subjects, letter.Subject)
		if found := tokenInLetter.FindStringSubmatch(letter.Text); found != nil {
			b.tokens[address] = found[1]
		}
		return true
	})
	return subjects
}

var tokenInLetter = regexp.MustCompile(`http://studio\.example/[a-z-]+#([A-Z2-7]+)`)

// token is what the last letter to an address that carried one carried.
func (b *bench) token(address string) string {
	b.t.Helper()
	b.lettersTo(address)
	require.NotEmpty(b.t, b.tokens[address], "no letter to %s opens anything", address)
	return b.tokens[address]
}
