package studio

import (
	"context"
	"errors"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/core/daily"
	"jundle/internal/core/page"
	"jundle/internal/core/readings"
	"jundle/internal/core/traffic"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

// ReadingsView is a reading with the names its keys stand for.
type ReadingsView struct {
	readings.Reading
	From     string            `json:"from" doc:"First day, YYYY-MM-DD."`
	To       string            `json:"to" doc:"Last day, YYYY-MM-DD."`
	Titles   []BlockTitle      `json:"titles" nullable:"false" doc:"The page's blocks in its order, then those that are no longer on it."`
	Shed     int64             `json:"shed" doc:"Events of all workspaces that could not be kept since the start."`
	Took     []page.Takeover   `json:"took" nullable:"false" doc:"What took the place of the page in that time, with when it was on in fact."`
	Editions []EditionMark     `json:"editions" nullable:"false" doc:"Those that went live in that time."`
	Windows  []page.WindowMark `json:"windows" nullable:"false" doc:"When blocks came to show, or ceased to, by their windows."`
	Sources  []SourceColumn    `json:"sources" nullable:"false" doc:"The page's sources in order; unlisted and untagged visits have no entry."`
	// TooEarly: it was to be compared, and the span before begins before there were figures.
	TooEarly bool `json:"tooEarly"`
	// NotOver: it was to be compared, and no day of it is over.
	NotOver bool `json:"notOver" doc:"No day of the span is over yet, so it is compared with nothing."`
	// Today is shown apart from a span that ends with the day before.
	Today *TodaySoFar `json:"today,omitempty" doc:"Today so far, where the span ends with yesterday."`
	// Association and Changes are worked out from the reading.
	Association readings.Association `json:"association"`
	Hours       []readings.Hour      `json:"hours" nullable:"false" doc:"Hour by hour, of one day or two; none for more."`
	Week        readings.WeekHours   `json:"week" doc:"By weekday and hour of the workspace's clocks."`
	Stayed      []readings.Stayed    `json:"stayed" nullable:"false" doc:"Who left an address and confirmed it, by source."`
	Taken       []TakenFrom          `json:"taken" nullable:"false" doc:"What was paid, less what was given back, by source and currency."`
	Asked       []AskedFromView      `json:"asked" nullable:"false" doc:"Times that were asked for, by source."`
	Changes     *readings.Changes    `json:"changes,omitempty" doc:"Against the span it is compared with; absent where it is with none."`
}

// TodaySoFar is what was counted today.
type TodaySoFar struct {
	Date   string         `json:"date" doc:"YYYY-MM-DD."`
	Visits int            `json:"visits"`
	Clicks int            `json:"clicks"`
	Blocks map[string]int `json:"blocks" doc:"Clicks by block; none for those without."`
}

// todaySoFar is of a reading of today.
func todaySoFar(of readings.Reading, date string) *TodaySoFar {
	today := TodaySoFar{Date: date, Visits: of.Total.Visits, Clicks: of.Total.Clicks, Blocks: map[string]int{}}
	for _, block := range of.Blocks {
		if block.Total.Clicks > 0 {
			today.Blocks[block.Block] = block.Total.Clicks
		}
	}
	return &today
}

// BlockTitle names a block in the readings.
type BlockTitle struct {
	Block string      `json:"block"`
	Title string      `json:"title"`
	Place int         `json:"place" doc:"Its place on the working copy's page, 0 when it is not shown there."`
	Items []ItemTitle `json:"items" nullable:"false" doc:"The several things to press on it, as they are called now."`
	Plain bool        `json:"plain,omitempty" doc:"The page carries its plain address: its clicks may be more than were counted."`
}

// ItemTitle names one of several things to press on a block.
type ItemTitle struct {
	Item  string `json:"item"`
	Title string `json:"title"`
}

// EditionMark is when an edition went live.
type EditionMark struct {
	Number  int       `json:"number"`
	At      time.Time `json:"at"`
	Changes int       `json:"changes" doc:"How many things it changed."`
}

// SourceColumn names a source in the readings.
type SourceColumn struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Retired bool   `json:"retired"`
}

// LeftOutEvent is an event that is kept and not counted.
type LeftOutEvent struct {
	At        time.Time    `json:"at"`
	Kind      traffic.Kind `json:"kind" enum:"view,click"`
	Title     string       `json:"title,omitempty" doc:"Of what was pressed."`
	Source    string       `json:"source,omitempty" doc:"Name of where it came from, where that is known."`
	UserAgent string       `json:"userAgent,omitempty"`
	Reason    string       `json:"reason" enum:"crawler,preview,prefetch,own,flood,repeat"`
}

// IncludedFlood is how many events are counted from now on.
type IncludedFlood struct {
	Included int64 `json:"included" doc:"Views and clicks."`
}

// leftOutShown is how many events that were left out are listed.
const leftOutShown = 100

func (s *Server) addLeftOut() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "include-flood", Method: http.MethodPost, Path: "/api/pages/{page}/left-out/flood",
		Summary:     "Count what was not counted because one network sent more than an hour's budget",
		Description: "Of the range, as far as raw events are kept. The figures of its days are made anew within a minute.",
	}), func(ctx context.Context, in *struct {
		PagePath
		RangeQuery
	},
	) (*struct{ Body IncludedFlood }, error) {
		owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
		if err != nil {
			return nil, err
		}
		included, err := s.Store.IncludeFlood(ctx, owner.WorkspaceID, in.Page, span.From(), earlier(span.To(), s.Now()))
		if err != nil {
			return nil, problem(err)
		}
		about(ctx, span.Date(0)+" – "+span.Date(span.Len()-1))
		return &struct{ Body IncludedFlood }{IncludedFlood{included}}, nil
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "list-left-out", Method: http.MethodGet, Path: "/api/pages/{page}/left-out",
		Summary: "List what was kept and not counted, latest first",
		Description: "The latest hundred of the last seven days of the range, and of today where that is 7d, 28d or 90d. " +
			"Repeats are found as figures are made, and are not among them.",
	}), func(ctx context.Context, in *struct {
		PagePath
		RangeQuery
	},
	) (*listOutput[LeftOutEvent], error) {
		owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
		if err != nil {
			return nil, err
		}
		to := earlier(span.To(), s.Now())
		if today, apart := span.Next(s.Now()); apart && readings.LastDays(in.Range) {
			to = today.To()
		}
		events, err := s.Store.LeftOut(ctx, owner.WorkspaceID, in.Page, span.From(), to, leftOutShown)
		if err != nil {
			return nil, problem(err)
		}
		names, err := figures.NamesOf(ctx, s.Store, owner, nil)
		if err != nil {
			return nil, problem(err)
		}
		list := make([]LeftOutEvent, len(events))
		for i, e := range events {
			list[i] = LeftOutEvent{e.At, e.Kind, names.Blocks[e.Block], nameOfSource(names, e.Source), e.UserAgent, e.Flags.Reason()}
		}
		return &listOutput[LeftOutEvent]{list}, nil
	})
}

func (s *Server) addReadings() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-readings", Method: http.MethodGet, Path: "/api/pages/{page}/readings", Summary: "Read a page's figures",
	}), s.getReadings)
}

type readingsOutput struct {
	ETag string `header:"ETag"`
	Body ReadingsView
}

func (s *Server) getReadings(ctx context.Context, in *struct {
	PagePath
	Conditional
	RangeQuery
	Compare readings.Comparison `query:"compare" enum:"none,before,weekdays" default:"none" doc:"As long before, or the same weekdays."`
},
) (*readingsOutput, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	workspaceID := owner.WorkspaceID
	view := ReadingsView{From: span.Date(0), To: span.Date(span.Len() - 1)}
	if s.Shed != nil {
		view.Shed = s.Shed()
	}
	if view.Sources, err = s.sourceColumns(ctx, workspaceID, in.Page); err != nil {
		return nil, problem(err)
	}
	took, err := s.Store.Took(ctx, workspaceID, in.Page, span.From(), earlier(span.To(), s.Now()))
	if err != nil {
		return nil, problem(err)
	}
	view.Took = append([]page.Takeover{}, took...)
	if err := s.addTimeMarks(ctx, &view, owner, span); err != nil {
		return nil, problem(err)
	}
	// Of everything there is nothing before.
	compared, known := in.Compare != "none" && in.Range != "all", span.From()
	if compared {
		since, err := s.Store.CountedSince(ctx, workspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		known = span.Compared(in.Compare).From()
		// Days of which nothing is known would look like days on which nobody came.
		if view.TooEarly = since.IsZero() || known.Before(since.AddDate(0, 0, -1)); view.TooEarly {
			compared, known = false, span.From()
		} else {
			known = span.Compared(in.Compare).DayEarlier().History().From()
		}
	}
	upTo := span.To()
	today, apart := span.Next(s.Now())
	if apart {
		upTo = today.To()
	}
	version, err := s.Store.FiguresVersion(ctx, workspaceID, in.Page, known, upTo)
	if err != nil {
		return nil, problem(err)
	}
	people, err := s.Store.SignUpsBySource(ctx, workspaceID, in.Page, span.From(), span.To())
	if err != nil {
		return nil, problem(err)
	}
	if view.Taken, err = s.takenBySource(ctx, workspaceID, in.Page, span); err != nil {
		return nil, problem(err)
	}
	if view.Asked, err = s.askedBySource(ctx, workspaceID, in.Page, span); err != nil {
		return nil, problem(err)
	}
	tag, err := in.tag(version, owner.Revision, owner.LiveEdition, in.Compare, view, people)
	if err != nil {
		return nil, err
	}
	with := in.Compare
	if !compared {
		with = ""
	}
	look, err := rollup.LookAt(ctx, s.Store, workspaceID, in.Page, span, with, s.Now())
	if err != nil {
		return nil, problem(err)
	}
	view.Reading, view.Changes, view.Association = look.Reading, look.Changes, look.Association
	view.NotOver = compared && view.Changes == nil
	if look.Today != nil {
		view.Today = todaySoFar(*look.Today, today.Date(0))
	}
	if plain := view.StillPlain; plain != nil && !slices.ContainsFunc(view.Sources, func(column SourceColumn) bool {
		return column.ID == plain.Source && !column.Retired
	}) {
		view.StillPlain = nil
	}
	view.Stayed = []readings.Stayed{}
	if len(people) > 0 {
		view.Stayed = readings.StayedBySource(view.Reading, people)
	}
	hours, err := s.Store.Hours(ctx, workspaceID, in.Page, span.From(), span.To())
	if err != nil {
		return nil, problem(err)
	}
	var shares []daily.HourShareRow
	if span.ByTheHour() {
		if shares, err = s.Store.HourShares(ctx, workspaceID, in.Page, span.From(), span.To()); err != nil {
			return nil, problem(err)
		}
	}
	view.Week, view.Hours = readings.ByWeekHour(span, hours), readings.ByHour(span, hours, shares)
	rows, err := figures.RowsOf(ctx, s.Store, owner, view.Blocks)
	if err != nil {
		return nil, problem(err)
	}
	view.Titles = blockTitles(rows)
	return &readingsOutput{tag, view}, nil
}

// addTimeMarks says what happened to the page in the time that is read.
func (s *Server) addTimeMarks(ctx context.Context, view *ReadingsView, owner store.Page, span readings.Span) error {
	view.Editions = []EditionMark{}
	editions, err := s.Store.EditionMarks(ctx, owner.WorkspaceID, owner.ID, span.From(), span.To())
	if err != nil {
		return err
	}
	for _, edition := range editions {
		view.Editions = append(view.Editions, EditionMark(edition))
	}
	until := earlier(span.To(), s.Now())
	showings, err := s.Store.LiveShowings(ctx, owner.WorkspaceID, owner.ID, span.From(), until)
	view.Windows = page.WindowMarks(showings, span.From(), until)
	return err
}

func earlier(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

func (s *Server) sourceColumns(ctx context.Context, workspace, pageID uuid.UUID) ([]SourceColumn, error) {
	sources, err := s.Store.Sources(ctx, workspace, pageID)
	columns := make([]SourceColumn, len(sources))
	for i, source := range sources {
		columns[i] = SourceColumn{ID: source.ID.String(), Name: source.Name, Retired: source.RetiredAt != nil}
	}
	return columns, err
}

// span reads a range of a page or a short link in the workspace's zone.
func (s *Server) span(ctx context.Context, id uuid.UUID, text string) (readings.Span, error) {
	span, err := figures.Span(ctx, s.Store, memberOf(ctx).WorkspaceID, id, text, s.Now())
	var bad *readings.SpanError
	switch {
	case errors.As(err, &bad):
		return span, refuse("range", bad.Reason)
	case err != nil:
		return span, problem(err)
	}
	return span, nil
}

func blockTitles(rows []figures.Row) []BlockTitle {
	titles := make([]BlockTitle, len(rows))
	for i, row := range rows {
		titles[i] = BlockTitle{Block: row.Key, Title: row.Title, Place: row.Place, Plain: row.Plain, Items: []ItemTitle{}}
		for _, item := range row.Items {
			titles[i].Items = append(titles[i].Items, ItemTitle{item.Key, item.Title})
		}
	}
	return titles
}
