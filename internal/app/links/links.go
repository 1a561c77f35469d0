// Package links has what creators do with short links: making, changing, giving another
// address, and making many from a list.
package links

import (
	"context"
	"crypto/rand"
	"errors"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"jundle/internal/app/library"
	"jundle/internal/core/address"
	"jundle/internal/core/invalid"
	"jundle/internal/core/shortlink"
	"jundle/internal/core/window"
	"jundle/internal/store"
)

// Links does it in a store. Errors are *invalid.Error under the names of fields, or
// the store's.
type Links struct {
	Store *store.Store
	// Origin is where the links stand, such as https://kiln.example.
	Origin string
	Now    func() time.Time
}

// Content is what a creator says of a short link, with its windows as they are entered
// in the workspace's zone.
type Content struct {
	shortlink.Link
	Windows []window.Entered
}

// Add makes a short link of a workspace under a chosen address, or under a made one
// where that is empty.
func (u Links) Add(ctx context.Context, workspace uuid.UUID, chosen string, content Content) (store.ShortLink, error) {
	if strings.TrimSpace(chosen) != "" {
		var err error
		if chosen, err = addressOf(chosen); err != nil {
			return store.ShortLink{}, err
		}
	}
	link, err := u.read(ctx, workspace, content, chosen)
	if err != nil {
		return store.ShortLink{}, err
	}
	return u.add(ctx, workspace, chosen, link)
}

// add makes a short link under an address that was chosen, or made when empty.
func (u Links) add(ctx context.Context, workspace uuid.UUID, chosen string, link shortlink.Link) (store.ShortLink, error) {
	for attempt := 0; ; attempt++ {
		name := chosen
		if name == "" {
			var err error
			if name, err = shortlink.MakeAddress(rand.Reader); err != nil {
				return store.ShortLink{}, err
			}
		}
		added, err := u.Store.AddShortLink(ctx, workspace, store.NewShortLink{Address: name, Link: link}, u.Now())
		// One that was made may be taken; five in a row are not.
		if errors.Is(err, store.ErrAddressTaken) && chosen == "" && attempt < 5 {
			continue
		}
		return added, err
	}
}

// Change replaces what a short link is when it is still at revision; otherwise it
// answers store.ErrStale with the link as it stands.
func (u Links) Change(ctx context.Context, workspace, id uuid.UUID, revision int64, content Content) (store.ShortLink, error) {
	before, err := u.Store.ShortLink(ctx, workspace, id)
	if err != nil {
		return store.ShortLink{}, err
	}
	var addresses []string
	for _, address := range before.Addresses {
		addresses = append(addresses, address.Address)
	}
	link, err := u.read(ctx, workspace, content, addresses...)
	if err != nil {
		return store.ShortLink{}, err
	}
	return u.Store.SaveShortLink(ctx, workspace, id, revision, link.Following(before.Link))
}

// Readdress gives a short link another address; the old one keeps leading there.
func (u Links) Readdress(ctx context.Context, workspace, id uuid.UUID, to string) (store.ShortLink, error) {
	name, err := addressOf(to)
	if err != nil {
		return store.ShortLink{}, err
	}
	return u.Store.ReaddressShortLink(ctx, workspace, id, name, u.Now())
}

func addressOf(text string) (string, error) {
	name, err := address.ParseShortAddress(text)
	if err != nil {
		return "", invalid.One("address", "%s", err)
	}
	return name, nil
}

// read checks what a creator says of a link that has these addresses.
func (u Links) read(ctx context.Context, workspace uuid.UUID, content Content, addresses ...string) (shortlink.Link, error) {
	zone, err := u.Store.Location(ctx, workspace)
	if err != nil {
		return shortlink.Link{}, err
	}
	var wrong invalid.List
	content.Link.Windows = window.In(zone, content.Windows, &wrong, "windows")
	link, err := content.Tidy()
	var also *invalid.Error
	if errors.As(err, &also) {
		wrong = append(wrong, also.Problems...)
	} else if circle, err := u.leadsToItself(ctx, workspace, link, addresses); err != nil {
		return link, err
	} else if circle {
		wrong.Add("destination", "This is the short link's own address. It would lead its visitors round in a circle.")
	}
	if err := wrong.Err(); err != nil {
		return link, err
	}
	return link, library.Check(ctx, u.Store, workspace, map[string][]string{"preview/picture": link.Preview.Picture.Names()})
}

func (u Links) leadsToItself(ctx context.Context, workspace uuid.UUID, link shortlink.Link, addresses []string) (bool, error) {
	for _, address := range []string{link.Destination, link.Fallback} {
		parsed, err := url.Parse(address)
		if err != nil || !slices.Contains(addresses, strings.ToLower(strings.Trim(parsed.Path, "/"))) {
			continue
		}
		if parsed.Scheme+"://"+parsed.Host == u.Origin {
			return true, nil
		}
		if _, own, err := u.Store.FrontAt(ctx, workspace, parsed.Hostname()); own || err != nil {
			return own, err
		}
	}
	return false, nil
}
