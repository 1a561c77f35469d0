package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"jundle/internal/core/invalid"
	"jundle/internal/core/page"
	"jundle/internal/core/trial"
)

// Trial is a trial of a page, running or over.
type Trial struct {
	ID      string `gorm:"primaryKey"`
	PageID  uuid.UUID
	Trial   page.Trial `gorm:"serializer:json"`
	Plan    trial.Plan `gorm:"serializer:json"`
	Worth   float64
	BeganAt time.Time
	Until   time.Time
	// EndedAt is nil while it runs, or where it ran out by itself.
	EndedAt *time.Time
	Ending  string
	Chosen  int
	// Arms is what each variant brought so far, and LastWeek what it brought in the last seven days with visits.
	Arms     []trial.Arm `gorm:"-"`
	LastWeek []trial.Arm `gorm:"-"`
}

// Ran is for how long it ran until a moment.
func (t Trial) Ran(now time.Time) time.Duration {
	for _, end := range []*time.Time{t.EndedAt, &t.Until} {
		if end != nil && end.Before(now) {
			now = *end
		}
	}
	return now.Sub(t.BeganAt)
}

// How trials end before their time.
const (
	TrialEnded   = "ended"   // by hand, with the page as it is
	TrialChanged = "changed" // what was tried was changed
	TrialChosen  = "chosen"  // a variant was put in place
)

// BeginTrial begins a trial on a page of a workspace that is live. It is live at once, as an
// edition of what is live otherwise; what waits in the working copy goes on waiting. Begin gets
// the page that visitors see.
func (s *Store) BeginTrial(ctx context.Context, workspace, user, id uuid.UUID, now time.Time,
	begin func(on page.Document) (Trial, error),
) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		locked, live, err := lockLive(tx, workspace, id)
		if err != nil {
			return err
		}
		if live == nil {
			return ErrNotFound
		}
		// One that ran out by itself makes room.
		if err := tx.Exec("update trials set ended_at = until where page_id = ? and ended_at is null and until <= ?", id, now).Error; err != nil {
			return err
		}
		var running int64
		if err := tx.Model(&Trial{}).Where("page_id = ? and ended_at is null", id).Count(&running).Error; err != nil {
			return err
		}
		if running > 0 {
			return invalid.One("trial", "One trial runs on this page already. Two at once would mix; end that one first.")
		}
		begun, err := begin(*live)
		if err != nil {
			return err
		}
		if err := s.roomForEdition(tx, id, false, now); err != nil {
			return err
		}
		begun.PageID = id
		if err := tx.Create(&begun).Error; err != nil {
			return err
		}
		live.Trial, live.Takeovers = &begun.Trial, page.OfLater(locked.Takeovers, now)
		return goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, UserID: &user,
			Changes: []page.Change{{Key: begun.Trial.Block, Sentence: "A trial begins. " + begun.Trial.String(*live)}},
		})
	})
}

// EndTrial ends a trial of a page of a workspace. Put is a variant that is put in place, live and
// in the working copy; nil leaves the page as it is. ErrNotFound when it is over already, unless a
// variant is to be put in place.
func (s *Store) EndTrial(ctx context.Context, workspace, user, id uuid.UUID, which string, put *int, now time.Time) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		locked, live, err := lockLive(tx, workspace, id)
		if err != nil {
			return err
		}
		var ended Trial
		err = tx.Where("page_id = ? and id = ?", id, which).Take(&ended).Error
		if err != nil {
			return found(err)
		}
		isOver := ended.EndedAt != nil || !now.Before(ended.Until)
		if put == nil && isOver || ended.Ending == TrialChosen || put != nil && (*put < 0 || *put > len(ended.Trial.Variants)) {
			return ErrNotFound
		}
		changes := map[string]any{"ended_at": now, "ending": TrialEnded}
		if put != nil {
			changes["ending"], changes["chosen"] = TrialChosen, *put
		}
		if err := tx.Model(&Trial{}).Where("id = ?", which).Updates(changes).Error; err != nil {
			return err
		}
		before := choice{Draft: locked.Draft, EndedAt: ended.EndedAt, Ending: ended.Ending}
		words := "The trial is over. The page is what it was."
		if put != nil && *put > 0 {
			if !ended.Trial.Fits(locked.Draft) || live != nil && !ended.Trial.Fits(*live) {
				return invalid.One("trial", "What was tried was changed on the page meanwhile, so the variant cannot be put in place by itself.")
			}
			words = fmt.Sprintf("The trial is over: %s", ended.Trial.Put(*put))
			if err := putInDraft(tx, locked, ended.Trial, *put); err != nil {
				return err
			}
		}
		if live == nil {
			return nil
		}
		if put != nil {
			*live = live.WithVariant(ended.Trial, *put)
		}
		if put != nil {
			before.Revision, before.Edition = locked.Revision, locked.LiveEdition+1
			if err := before.keep(tx, id, which); err != nil {
				return err
			}
		}
		live.Trial, live.Takeovers = nil, page.OfLater(locked.Takeovers, now)
		return goLive(tx, Edition{
			PageID: id, Number: locked.LiveEdition + 1, Document: *live, PublishedAt: now, UserID: &user,
			Changes: []page.Change{{Key: ended.Trial.Block, Sentence: words}},
		})
	})
}

// putInDraft puts a variant into the working copy, where what waits goes on waiting.
func putInDraft(tx *gorm.DB, locked *Page, of page.Trial, variant int) error {
	locked.Draft = locked.Draft.WithVariant(of, variant)
	if locked.PublishedRevision == locked.Revision {
		locked.PublishedRevision++
	}
	locked.Revision++
	return tx.Select("draft", "revision", "published_revision").Updates(locked).Error
}

// lockLive locks a page of a workspace and reads what visitors see of it; nil before it was
// published.
func lockLive(tx *gorm.DB, workspace, id uuid.UUID) (*Page, *page.Document, error) {
	var locked Page
	err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).
		Select("id", "draft", "revision", "published_revision", "live_edition", "takeovers").
		Where("id = ? and workspace_id = ?", id, workspace).Take(&locked).Error
	if err != nil {
		return nil, nil, found(err)
	}
	live, err := liveDocument(tx, workspace, id, locked.LiveEdition)
	return &locked, live, err
}

// keepTrialFitting takes a trial off an edition on which it would compare something else, and ends
// it.
func keepTrialFitting(tx *gorm.DB, edition *Edition) error {
	tried := edition.Document.Trial
	switch {
	case tried == nil:
		return nil
	case !edition.PublishedAt.Before(tried.Until):
		edition.Document.Trial = nil // it ran out by itself
		return nil
	case tried.Fits(edition.Document):
		return nil
	}
	edition.Document.Trial = nil
	edition.Changes = append(edition.Changes, page.Change{Sentence: "The trial that ran is over, because what was tried was changed."})
	return tx.Model(&Trial{}).Where("id = ? and ended_at is null", tried.ID).
		Updates(map[string]any{"ended_at": edition.PublishedAt, "ending": TrialChanged}).Error
}

// mostTrials is how many trials of a page are listed, the latest ones.
const mostTrials = 30

// Trials lists the trials of a page of a workspace, latest first, with what came of them.
func (s *Store) Trials(ctx context.Context, workspace, id uuid.UUID) ([]Trial, error) {
	rows, err := s.pool.Query(ctx, `
		select trials.id, trial, plan, worth, began_at, until, ended_at, ending, chosen, coalesce((
			select json_agg(arms) from (
				select variant, day > last_day - 7 as late, sum(reach) as reach, sum(takers) as takers, sum(visitors) as visitors,
					sum(reach_squared) as "reachSquared", sum(reach_takers) as "reachTakers", sum(takers_squared) as "takersSquared"
				from daily_trials
				where endpoint_id = pages.id and utc_day >= (began_at at time zone 'UTC')::date
					and utc_day <= (until at time zone 'UTC')::date and daily_trials.trial = trials.id
				group by 1, 2) arms), '[]')
		from trials
		cross join lateral (select max(day) as last_day from daily_trials where endpoint_id = page_id
			and utc_day >= (began_at at time zone 'UTC')::date and daily_trials.trial = trials.id) as lasts join pages on pages.id = page_id
		where workspace_id = $1 and pages.id = $2 order by began_at desc, ended_at desc nulls first limit $3`, workspace, id, mostTrials)
	if err != nil {
		return nil, err
	}
	all, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (one Trial, err error) {
		var tried, plan []byte
		var sums []struct {
			Variant int
			Late    bool
			trial.Arm
		}
		err = row.Scan(&one.ID, &tried, &plan, &one.Worth, &one.BeganAt, &one.Until, &one.EndedAt, &one.Ending, &one.Chosen, &sums)
		if err != nil {
			return one, err
		}
		if err := json.Unmarshal(tried, &one.Trial); err != nil {
			return one, err
		}
		one.Arms, one.LastWeek = make([]trial.Arm, len(one.Trial.Variants)+1), make([]trial.Arm, len(one.Trial.Variants)+1)
		for _, sum := range sums {
			if sum.Variant >= len(one.Arms) {
				continue
			}
			one.Arms[sum.Variant].Add(sum.Arm)
			if sum.Late {
				one.LastWeek[sum.Variant].Add(sum.Arm)
			}
		}
		return one, json.Unmarshal(plan, &one.Plan)
	})
	if err != nil {
		return nil, fmt.Errorf("read the trials of a page: %w", err)
	}
	return all, nil
}
