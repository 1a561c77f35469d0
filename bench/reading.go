package main

import (
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/source"
	"jundle/internal/core/traffic"
	"jundle/internal/demo"
	"jundle/internal/store"
)

const (
	eventsToday  = 1_000_000
	readingTimes = 60
)

// reader is a creator who reads the figures of a page.
type reader struct {
	client  *http.Client
	address string
}

func newReader(studio string, page uuid.UUID) (*reader, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	r := &reader{&http.Client{Jar: jar}, fmt.Sprintf("http://%s/api/pages/%s/readings?range=28d", studio, page)}
	who, err := json.Marshal(map[string]string{"email": demo.Email, "password": demo.Password})
	if err != nil {
		return nil, err
	}
	answer, err := r.client.Post("http://"+studio+"/api/sign-in", "application/json", strings.NewReader(string(who)))
	if err != nil {
		return nil, err
	}
	defer answer.Body.Close()
	if answer.StatusCode != http.StatusOK {
		return nil, fmt.Errorf("signing in: %s", answer.Status)
	}
	return r, nil
}

// read reads again and again, and returns the median time and how many visits of
// today the last reading counts.
func (r *reader) read() (median time.Duration, visits int, err error) {
	var took []time.Duration
	for range readingTimes {
		began := time.Now()
		answer, err := r.client.Get(r.address)
		if err != nil {
			return 0, 0, err
		}
		body, err := io.ReadAll(answer.Body)
		answer.Body.Close()
		if err != nil || answer.StatusCode != http.StatusOK {
			return 0, 0, fmt.Errorf("reading: %s %w", answer.Status, err)
		}
		took = append(took, time.Since(began))
		var reading struct{ Days []struct{ Visits int } }
		if err := json.Unmarshal(body, &reading); err != nil {
			return 0, 0, err
		}
		visits = reading.Days[len(reading.Days)-1].Visits
	}
	slices.Sort(took)
	return took[len(took)/2], visits, nil
}

// fillToday gives a page so many more events today, of visitors who do three
// things each, from a few places, one of them one of many that are made up.
func fillToday(ctx context.Context, s *store.Store, live store.LivePage, events int) error {
	batch := make([]store.Event, 0, 16_000)
	today := time.Now().UTC().Truncate(24 * time.Hour)
	for n := range events {
		who, what := n/3, n%3
		event := store.Event{
			ID: uuid.Must(uuid.NewV7()), At: today.Add(time.Duration(n) * time.Millisecond), EndpointID: live.PageID, Edition: 1,
			Kind: traffic.View, UserAgent: phone, Rules: traffic.RulesVersion,
			Attribution: source.Attribution{Source: live.Sources[who%len(live.Sources)].ID, By: source.ByTag},
		}
		if who%10 == 0 {
			event.Attribution = source.Attribution{Source: source.UnlistedCampaign.Key(fmt.Sprint("made-up-", who%5000)), By: source.ByCampaign}
		}
		if what > 0 {
			event.Kind, event.Block, event.Item = traffic.Click, "throwing", fmt.Sprint(what)
			event.Attribution = source.Attribution{By: source.Untagged}
		}
		binary.BigEndian.PutUint64(event.Visitor[:], uint64(who)*0x9e3779b97f4a7c15)
		if batch = append(batch, event); len(batch) == cap(batch) || n == events-1 {
			if err := s.RecordEvents(ctx, batch); err != nil {
				return err
			}
			batch = batch[:0]
		}
	}
	return nil
}

// readings measures reading a page before and after a million events of today.
func readings(ctx context.Context, subject *subject) error {
	live, err := subject.store.LivePage(ctx, demo.WorkshopsPage)
	if err != nil {
		return err
	}
	r, err := newReader(subject.studio, live.PageID)
	if err != nil {
		return err
	}
	memory, err := subject.memory("VmRSS")
	if err != nil {
		return err
	}
	empty, before, err := r.read()
	if err != nil {
		return err
	}
	began := time.Now()
	if err := fillToday(ctx, subject.store, live, eventsToday); err != nil {
		return err
	}
	rate := eventsToday / time.Since(began).Seconds()
	full, after, err := r.read()
	if err != nil {
		return err
	}
	grown, err := subject.memory("VmRSS")
	if err != nil {
		return err
	}
	if after-before != (eventsToday+2)/3 {
		return fmt.Errorf("the reading counts %d more visits, and not %d", after-before, (eventsToday+2)/3)
	}
	fmt.Printf("Reading a page, median of %d: %.1f ms, and %.1f ms with %d events today (%.0f a second); "+
		"ratio %.2f (at most 2, under 50 ms).\n",
		readingTimes, empty.Seconds()*1000, full.Seconds()*1000, eventsToday, rate, full.Seconds()/empty.Seconds())
	fmt.Printf("The process had %d MB before, and %d MB after.\n", memory>>20, grown>>20)
	return nil
}
