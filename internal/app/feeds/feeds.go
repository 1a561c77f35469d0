// Package feeds takes in feeds for the blocks that show them: finds them, asks them again
// when they are due, and keeps what they have with its pictures. The last good state stays
// where one gives no answer.
package feeds

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"reflect"
	"time"

	"github.com/google/uuid"
	"golang.org/x/sync/errgroup"

	"jundle/internal/core/address"
	"jundle/internal/core/feed"
	"jundle/internal/core/picture"
	"jundle/internal/feedfile"
	"jundle/internal/files"
	"jundle/internal/media"
	"jundle/internal/outbound"
	"jundle/internal/store"
)

const (
	// perRound is how many feeds are asked in one round, and atOnce how many at one time.
	perRound = 16
	atOnce   = 4
	// asksWithin is how long one feed with its pictures may take.
	asksWithin = 40 * time.Second
	// maxPicture is the largest picture of an item that is read, in bytes.
	maxPicture = 6 << 20
)

// ErrNoFeed is answered for an address where there is no feed, and no page that names one.
var ErrNoFeed = feedfile.ErrNoFeed

// Feeds takes feeds in.
type Feeds struct {
	Store    *store.Store
	Files    *files.Files
	Outbound *outbound.Client
	Now      func() time.Time
}

// Find takes in the feed at an address, or the one that the page there names. One that is
// there already is asked again. Errors: ErrNoFeed, a *store.QuotaError, and whatever keeps
// an address from being asked.
func (u Feeds) Find(ctx context.Context, workspace uuid.UUID, link string) (store.Feed, error) {
	ctx, cancel := context.WithTimeout(ctx, asksWithin)
	defer cancel()
	answer, err := u.ask(ctx, store.Feed{Address: link})
	if err == nil && answer.IsPage() {
		if link = outbound.FeedOf(ctx, answer); link == "" {
			return store.Feed{}, ErrNoFeed
		}
		if _, err := address.ParseLink(link); err != nil {
			return store.Feed{}, ErrNoFeed
		}
		answer, err = u.ask(ctx, store.Feed{Address: link})
	}
	if err != nil {
		return store.Feed{}, err
	}
	if !answer.IsOK() {
		return store.Feed{}, fmt.Errorf("%w: it answered %d", ErrNoFeed, answer.Status)
	}
	read, err := feedfile.Read(answer.Body, answer.From)
	if err != nil {
		return store.Feed{}, err
	}
	now := u.Now()
	one, err := u.Store.AddFeed(ctx, store.Feed{
		WorkspaceID: workspace, Address: link, Title: read.Title, AskedAt: now, ReadAt: now, UsedAt: now, DueAt: now.Add(time.Hour),
	})
	if err != nil {
		return store.Feed{}, err
	}
	return u.take(ctx, one, answer, read)
}

// AskDue asks a round of the feeds that are due.
func (u Feeds) AskDue(ctx context.Context) error {
	due, err := u.Store.TakeDueFeeds(ctx, u.Now(), perRound)
	if err != nil {
		return err
	}
	var round errgroup.Group
	round.SetLimit(atOnce)
	for _, one := range due {
		round.Go(func() error { return u.again(ctx, one) })
	}
	return round.Wait()
}

// again asks a feed that is there, and keeps what it had where there is no answer.
func (u Feeds) again(parent context.Context, one store.Feed) error {
	ctx, cancel := context.WithTimeout(parent, asksWithin)
	defer cancel()
	answer, err := u.ask(ctx, one)
	if parent.Err() != nil {
		return nil // that it was broken off says nothing; it comes again
	}
	var read feedfile.Feed
	problem := ""
	switch {
	case err != nil:
		problem = outbound.Reason(err)
	case answer.IsUnchanged():
		_, err := u.take(parent, one, answer, feedfile.Feed{})
		return err
	case !answer.IsOK():
		problem = fmt.Sprintf("It answered %d.", answer.Status)
	default:
		if read, err = feedfile.Read(answer.Body, answer.From); err != nil {
			problem = "What it answered is no feed."
		}
	}
	if problem == "" {
		_, err := u.take(ctx, one, answer, read)
		return err
	}
	one.Failures++
	one.Problem, one.AskedAt = problem, u.Now()
	one.DueAt = feed.Next(one.AskedAt, feed.Answer{
		Failures: one.Failures, Over: answer.IsGone(), Later: answer.RetryAfter(one.AskedAt),
	}, rand.Float64())
	return u.Store.KeepFeed(parent, one, false)
}

// take keeps what a feed answered: all it had where it says that nothing changed.
func (u Feeds) take(ctx context.Context, one store.Feed, answer outbound.Answer, read feedfile.Feed) (store.Feed, error) {
	now, before := u.Now(), one.Items
	one.AskedAt, one.ReadAt, one.Failures, one.Problem = now, now, 0, ""
	if !answer.IsUnchanged() {
		items := make([]feed.Item, len(read.Entries))
		wanted := make(map[string]string)
		for i, entry := range read.Entries {
			items[i] = entry.Item
			wanted[entry.Key] = entry.Picture
		}
		one.Items = feed.Merge(one.Items, items)
		one.Title = read.Title
		u.addPictures(ctx, one, wanted)
		one.Etag, one.Modified = answer.Validators()
	}
	one.DueAt = feed.Next(now, feed.Answer{Fresh: answer.FreshFor(), Later: answer.RetryAfter(now)}, rand.Float64())
	return one, u.Store.KeepFeed(context.WithoutCancel(ctx), one, !reflect.DeepEqual(before, one.Items))
}

// addPictures fetches the pictures of the newest items that have none yet. One that cannot
// be had is done without, until the feed changes.
func (u Feeds) addPictures(ctx context.Context, one store.Feed, wanted map[string]string) {
	for i := range one.Items {
		item := &one.Items[i]
		if i == feed.Pictured || item.Gone || ctx.Err() != nil {
			return
		}
		if item.Picture != nil || wanted[item.Key] == "" {
			continue
		}
		data, _, _, err := u.Outbound.Get(ctx, wanted[item.Key], "image/*", maxPicture)
		if err != nil {
			continue
		}
		kept, err := u.keep(ctx, one.WorkspaceID, data)
		var full *store.QuotaError
		switch {
		case errors.As(err, &full):
			return
		case err != nil && ctx.Err() == nil && !errors.Is(err, media.ErrNoPicture):
			slog.Warn("the picture of a feed's item could not be kept", "feed", one.ID, "error", err)
		}
		item.Picture = kept
	}
}

func (u Feeds) keep(ctx context.Context, workspace uuid.UUID, data []byte) (*picture.Picture, error) {
	turn, err := media.TakeTurn(ctx)
	if err != nil {
		return nil, err
	}
	defer turn.Done()
	original, err := turn.Original(data)
	if err != nil {
		return nil, err
	}
	made, cut, err := turn.Cut(ctx, original, media.Whole(original), "column")
	if err != nil {
		return nil, err
	}
	// The original is not kept: there may be many pictures, and nobody cuts them anew.
	made.Original, made.Cut = "", nil
	if err := u.Files.Keep(ctx, workspace, cut...); err != nil {
		return nil, err
	}
	return &made, nil
}

// ask asks a feed, on condition that it changed where that can be told (RFC 9110 s13.1).
func (u Feeds) ask(ctx context.Context, one store.Feed) (outbound.Answer, error) {
	return u.Outbound.Fetch(ctx, one.Address, map[string]string{
		"Accept":     "application/feed+json, application/atom+xml, application/rss+xml, application/xml;q=0.9, text/html;q=0.5, */*;q=0.1",
		"User-Agent": "Jundle feed reader", "If-None-Match": one.Etag, "If-Modified-Since": one.Modified,
	}, feedfile.MaxBytes)
}
