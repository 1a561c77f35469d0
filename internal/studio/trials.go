package studio

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"jundle/internal/app/pages"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/core/stats"
	"jundle/internal/core/trial"
	"jundle/internal/store"
)

// NewTrialRequest is a trial that is to begin.
type NewTrialRequest struct {
	Kind     page.TrialKind `json:"kind" enum:"title,picture,place,order"`
	Block    string         `json:"block,omitempty" maxLength:"16" doc:"Key of the button; of an order, left out."`
	Variants []page.Variant `json:"variants" nullable:"false" maxItems:"2" doc:"One or two beside the page as it is."`
	Days     int            `json:"days" minimum:"14" maximum:"90" doc:"After which it is over by itself; two whole weeks at least."`
	Worth    float64        `json:"worth" minimum:"0.001" maximum:"0.5" doc:"Smallest difference worth having, as a share: 0.02 is 2 points."`
}

func (r NewTrialRequest) trial() pages.NewTrial {
	return pages.NewTrial{Kind: r.Kind, Block: r.Block, Variants: r.Variants, Days: r.Days, Worth: r.Worth}
}

// TrialView is a trial and what came of it so far.
type TrialView struct {
	ID       string         `json:"id"`
	Kind     page.TrialKind `json:"kind" enum:"title,picture,place,order"`
	Block    string         `json:"block,omitempty"`
	Title    string         `json:"title,omitempty" doc:"What the button is called; left out of an order, and where the button is gone."`
	Variants []page.Variant `json:"variants" nullable:"false" doc:"Beside the page as it is, which is variant 0."`
	BeganAt  time.Time      `json:"beganAt"`
	Until    time.Time      `json:"until"`
	EndedAt  *time.Time     `json:"endedAt,omitempty" doc:"Set where it ended before its time, or a variant was put in place."`
	Ending   string         `json:"ending,omitempty" enum:"ended,changed,chosen" doc:"How it ended, where it did not run out."`
	Chosen   int            `json:"chosen" doc:"The variant that was put in place."`
	Runs     bool           `json:"runs"`
	ChooseAt time.Time      `json:"chooseAt" doc:"From when on a variant is suggested: after two whole weeks."`
	Worth    float64        `json:"worth"`
	Plan     trial.Plan     `json:"plan" doc:"What it could find, as was said before it began."`
	Arms     []TrialArm     `json:"arms" nullable:"false" doc:"Of each variant, the page as it is first."`
	Result   trial.Result   `json:"result"`
}

// TrialArm is what came of one variant.
type TrialArm struct {
	Rate readings.Rate `json:"rate" doc:"Takers of reach."`
	// Against is between what its rate differs, on all days at once with 95 % confidence.
	Against *stats.Interval `json:"against,omitempty" doc:"Difference from the page as it is; absent for that itself."`
	// LastWeek is the same of the last seven days alone, looked at once.
	LastWeek *stats.Interval `json:"lastWeek,omitempty" doc:"Difference in the last seven days (95 %), where there is enough of them."`
}

func trialView(of store.Trial, now time.Time) TrialView {
	view := TrialView{
		ID: of.ID, Kind: of.Trial.Kind, Block: of.Trial.Block, Variants: of.Trial.Variants, BeganAt: of.BeganAt, Until: of.Until,
		EndedAt: of.EndedAt, Ending: of.Ending, Chosen: of.Chosen, Worth: of.Worth, Plan: of.Plan, Arms: []TrialArm{},
		Runs: of.EndedAt == nil && now.Before(of.Until), ChooseAt: of.BeganAt.Add(trial.Least),
		Result: trial.Judge(of.Arms, of.LastWeek, of.Plan.Tau(), of.Worth, of.Ran(now)),
	}
	for i, arm := range of.Arms {
		one := TrialArm{Rate: readings.NewRate(arm.Takers, arm.Reach)}
		if i > 0 {
			one.Against = &view.Result.Differences[i]
			if week := view.Result.LastWeek[i]; week.High-week.Low < 2 {
				one.LastWeek = &week
			}
		}
		view.Arms = append(view.Arms, one)
	}
	return view
}

// TrialPath names a trial of a page.
type TrialPath struct {
	PagePath
	Trial string `path:"trial" maxLength:"16"`
}

func (s *Server) addTrials() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-trials", Method: http.MethodGet, Path: "/api/pages/{page}/trials",
		Summary: "List the trials of a page, latest first, with what came of them", Description: "Thirty at most.",
	}), s.listTrials)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "plan-trial", Method: http.MethodPost, Path: "/api/pages/{page}/trial-plans",
		Summary: "Say what a trial could find before it begins",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body NewTrialRequest
	},
	) (*struct{ Body trial.Plan }, error) {
		plan, err := s.pages.PlanTrial(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Body.trial())
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body trial.Plan }{plan}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "begin-trial", Method: http.MethodPost, Path: "/api/pages/{page}/trials", DefaultStatus: http.StatusCreated,
		Summary: "Show variants of one thing to fair shares of visitors; live at once",
	}), func(ctx context.Context, in *struct {
		PagePath
		Body NewTrialRequest
	},
	) (*trialsOutput, error) {
		if err := s.pages.BeginTrial(ctx, memberOf(ctx), in.Page, in.Body.trial()); err != nil {
			return nil, problem(err)
		}
		return s.listTrials(ctx, &in.PagePath)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "end-trial", Method: http.MethodDelete, Path: "/api/pages/{page}/trials/{trial}", DefaultStatus: http.StatusOK,
		Summary: "End a trial; the page is what it was",
	}), func(ctx context.Context, in *TrialPath) (*trialsOutput, error) {
		return s.endTrial(ctx, in, nil)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "choose-variant", Method: http.MethodPost, Path: "/api/pages/{page}/trials/{trial}/choice",
		Summary: "End a trial and put a variant in place, live and in the working copy",
	}), func(ctx context.Context, in *struct {
		TrialPath
		Body struct {
			Variant int `json:"variant" minimum:"0" maximum:"2" doc:"0 is the page as it is."`
		}
	},
	) (*trialsOutput, error) {
		return s.endTrial(ctx, &in.TrialPath, &in.Body.Variant)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "undo-choice", Method: http.MethodDelete, Path: "/api/pages/{page}/trials/{trial}/choice",
		DefaultStatus: http.StatusOK, Summary: "Undo that a variant was put in place, within a minute",
		Description: "The live page, the working copy and the trial are what they were. Refused once the page was changed since.",
	}), func(ctx context.Context, in *TrialPath) (*trialsOutput, error) {
		member := memberOf(ctx)
		if err := s.Store.UndoChoice(ctx, member.WorkspaceID, member.ID, in.Page, in.Trial, s.Now()); err != nil {
			return nil, problem(err)
		}
		return s.listTrials(ctx, &in.PagePath)
	})
}

type trialsOutput struct {
	Body []TrialView `nullable:"false"`
}

func (s *Server) endTrial(ctx context.Context, in *TrialPath, put *int) (*trialsOutput, error) {
	member := memberOf(ctx)
	if err := s.Store.EndTrial(ctx, member.WorkspaceID, member.ID, in.Page, in.Trial, put, s.Now()); err != nil {
		return nil, problem(err)
	}
	return s.listTrials(ctx, &in.PagePath)
}

func (s *Server) listTrials(ctx context.Context, in *PagePath) (*trialsOutput, error) {
	workspace := memberOf(ctx).WorkspaceID
	found, err := s.Store.Page(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	titles := make(map[string]string, len(found.Draft.Blocks))
	for _, block := range found.Draft.Blocks {
		titles[block.Key] = block.Title()
	}
	trials, err := s.Store.Trials(ctx, workspace, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	views := make([]TrialView, len(trials))
	for i, each := range trials {
		views[i] = trialView(each, s.Now())
		views[i].Title = titles[each.Trial.Block]
	}
	return &trialsOutput{views}, nil
}
