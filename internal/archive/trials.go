package archive

import (
	"time"

	"github.com/google/uuid"

	"jundle/internal/core/page"
	"jundle/internal/core/partner"
	"jundle/internal/core/trial"
	"jundle/internal/store"
)

type trialRecord struct {
	ID      string      `json:"id"`
	Trial   page.Trial  `json:"trial"`
	Plan    trial.Plan  `json:"plan"`
	Worth   float64     `json:"worth"`
	BeganAt time.Time   `json:"beganAt"`
	Until   time.Time   `json:"until"`
	EndedAt *time.Time  `json:"endedAt,omitempty"`
	Ending  string      `json:"ending,omitempty"`
	Chosen  int         `json:"chosen"`
	Arms    []trial.Arm `json:"arms"` // what came of each variant, the page as it is first
}

func recordsOfTrials(trials []store.Trial) []trialRecord {
	records := make([]trialRecord, len(trials))
	for i, t := range trials {
		records[i] = trialRecord{t.ID, t.Trial, t.Plan, t.Worth, t.BeganAt, t.Until, t.EndedAt, t.Ending, t.Chosen, t.Arms}
	}
	return records
}

type partnerRecord struct {
	ID        uuid.UUID             `json:"id"`
	Name      string                `json:"name"`
	Mapping   partner.ReportMapping `json:"mapping"`
	Tolerance float64               `json:"tolerance"`
	Counts    []countRecord         `json:"counts"`
}

type countRecord struct {
	Day     string `json:"day"`
	Subject string `json:"subject"`
	Clicks  int    `json:"clicks"`
}

// trials writes what was tried on a page: the latest trials, as they are listed.
func (w *writer) trials(below string, pageID uuid.UUID) error {
	trials, err := w.store.Trials(w.ctx, w.workspace, pageID)
	if err != nil {
		return err
	}
	return w.json(below+"trials.json", recordsOfTrials(trials))
}

// partners writes what partners counted of a page.
func (w *writer) partners(below string, pageID uuid.UUID) error {
	partners, err := w.store.Partners(w.ctx, w.workspace, pageID)
	if err != nil {
		return err
	}
	records := make([]partnerRecord, len(partners))
	for i, each := range partners {
		counts, err := w.store.PartnerCounts(w.ctx, each.ID, "2000-01-01", "2099-12-31")
		if err != nil {
			return err
		}
		records[i] = partnerRecord{each.ID, each.Name, each.Mapping, each.Tolerance, make([]countRecord, len(counts))}
		for n, count := range counts {
			records[i].Counts[n] = countRecord(count)
		}
	}
	return w.json(below+"partners.json", records)
}
