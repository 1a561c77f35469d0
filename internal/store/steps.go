package store

import (
	"context"
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"

	"jundle/internal/core/page"
)

// Step is something that changed a working copy and can be undone.
type Step struct {
	// Key is what the client calls it, one of a page.
	Key string
	// Name is what was done, in words.
	Name string
	// Undone: it was taken back, and can be done again.
	Undone bool
	// AlsoOn is the other page that it changed, as where a block was moved; nil for none.
	AlsoOn *uuid.UUID
}

// StepTaken is a step that a save did, took back or did again.
type StepTaken struct {
	Key  string
	Name string
	Way  StepWay
	// Before is the working copy as it was then, where that is neither what was saved
	// before nor what an earlier step of the same save made; nil otherwise.
	Before *page.Document
}

// StepWay is what became of a step.
type StepWay string

// Ways of a step.
const (
	StepDone   StepWay = "done"
	StepUndone StepWay = "undone"
	StepRedone StepWay = "redone"
)

// StepDocuments are the working copy before a step and after it.
type StepDocuments struct {
	Before page.Document `gorm:"serializer:json"`
	After  page.Document `gorm:"serializer:json"`
}

const (
	// stepsKept is how many steps of a member on a page can be undone later.
	stepsKept = 200
	// stepBytes is how much they may take together, as text.
	stepBytes = 4 << 20
	// StepsKeptFor is for how long.
	StepsKeptFor = 30 * 24 * time.Hour
)

// Steps lists what a member did to a page of a workspace, in order.
func (s *Store) Steps(ctx context.Context, workspace, user, id uuid.UUID) ([]Step, error) {
	if err := s.db.WithContext(ctx).Select("id").Where("id = ? and workspace_id = ?", id, workspace).Take(&Page{}).Error; err != nil {
		return nil, found(err)
	}
	rows, err := s.pool.Query(ctx, `
		select steps.key, steps.name, steps.undone, also.page_id
		from page_steps steps join pages on pages.id = steps.page_id
		left join lateral (
			select others.page_id from page_steps others join pages theirs on theirs.id = others.page_id
			where others.user_id = steps.user_id and others.key = steps.key and others.page_id <> steps.page_id
				and theirs.workspace_id = $1 limit 1) also on true
		where pages.workspace_id = $1 and steps.user_id = $2 and pages.id = $3 order by steps.number`, workspace, user, id)
	if err != nil {
		return nil, err
	}
	return pgx.CollectRows(rows, pgx.RowToStructByPos[Step])
}

// StepDocuments finds what a step of a member changed in a page of a workspace, leading
// where it leads now.
func (s *Store) StepDocuments(ctx context.Context, workspace, user, id uuid.UUID, key string) (StepDocuments, error) {
	var documents StepDocuments
	db := s.db.WithContext(ctx)
	err := db.Table("page_steps").Select("before, after").Joins("join pages on pages.id = page_id").
		Where("workspace_id = ? and user_id = ? and pages.id = ? and key = ?", workspace, user, id, key).Take(&documents).Error
	if err == nil {
		err = resolve(db, workspace, &documents.Before, &documents.After)
	}
	return documents, found(err)
}

// keepSteps notes what a save did that made one working copy of another. Of what was done
// in one save each is a step whose beginning is known, and what follows without is part
// of it. A step that is saved in several parts, as in typing, stays one as long as
// nothing else was done.
func keepSteps(tx *gorm.DB, id uuid.UUID, save DraftSave, before []byte, after page.Document) error {
	if len(save.Steps) == 0 {
		return nil
	}
	var begun *keptStep
	end := func(after []byte) error {
		if begun == nil {
			return nil
		}
		begun.after = after
		err := begun.keep(tx, id, save)
		begun = nil
		return err
	}
	for _, step := range save.Steps {
		if step.Before != nil {
			text, err := json.Marshal(step.Before)
			if err != nil {
				return err
			}
			if err := end(text); err != nil {
				return err
			}
			before = text
		}
		switch {
		case step.Way != StepDone:
			err := tx.Exec("update page_steps set undone = ? where page_id = ? and user_id = ? and key = ?", step.Way == StepUndone, id, save.By,
				step.Key).Error
			if err != nil {
				return fmt.Errorf("note that a step was taken back or done again: %w", err)
			}
		case begun != nil:
			begun.step = step
		default:
			begun = &keptStep{step: step, before: before}
		}
	}
	text, err := json.Marshal(after)
	if err != nil {
		return err
	}
	if err := end(text); err != nil {
		return err
	}
	return thinSteps(tx, id, save.By)
}

// keptStep is a step with what it made of what.
type keptStep struct {
	step          StepTaken
	before, after []byte
}

func (s keptStep) keep(tx *gorm.DB, id uuid.UUID, save DraftSave) error {
	// What was taken back cannot be done again after something else.
	if err := tx.Exec("delete from page_steps where page_id = ? and user_id = ? and undone", id, save.By).Error; err != nil {
		return fmt.Errorf("forget what was undone: %w", err)
	}
	err := tx.Exec(`
		insert into page_steps (page_id, user_id, key, name, before, after, size, at) values (?, ?, ?, ?, ?, ?, ?, ?)
		on conflict (page_id, user_id, key) do update
			set after = excluded.after, at = excluded.at, size = octet_length(page_steps.before::text) + octet_length(excluded.after::text)
			where page_steps.number = (select max(number) from page_steps where page_id = excluded.page_id and user_id = excluded.user_id)`,
		id, save.By, s.step.Key, s.step.Name, string(s.before), string(s.after), len(s.before)+len(s.after), save.At).Error
	if err != nil {
		return fmt.Errorf("keep a step: %w", err)
	}
	return nil
}

// thinSteps forgets the oldest steps of a member who has done too many, or too large ones.
func thinSteps(tx *gorm.DB, id, user uuid.UUID) error {
	return tx.Exec(`
		delete from page_steps where page_id = ? and number in (
			select number from (
				select number, row_number() over latest as place, sum(size) over latest as together
				from page_steps where page_id = ? and user_id = ? window latest as (order by number desc)) as counted
			where place > ? or together > ?)`, id, id, user, stepsKept, stepBytes).Error
}

// ForgetSteps deletes steps that were done a while ago, at most so many at a time.
func (s *Store) ForgetSteps(ctx context.Context, most int, now time.Time) error {
	_, err := s.pool.Exec(ctx, `
		delete from page_steps where (page_id, number) in (select page_id, number from page_steps where at < $1 order by at limit $2)`,
		now.Add(-StepsKeptFor), most)
	return err
}
