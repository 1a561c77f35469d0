package studio

import (
	"bytes"
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"strconv"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/google/uuid"

	"jundle/internal/app/figures"
	"jundle/internal/core/daily"
	"jundle/internal/core/readings"
	"jundle/internal/figurefile"
	"jundle/internal/rollup"
	"jundle/internal/store"
)

const (
	// eventsTogether is how many raw events are held at one time while they are taken away: each time
	// the day is gone through for the next of them.
	eventsTogether = 20_000
	// eventsAChunk is how many are written before whoever takes them has to have taken some.
	eventsAChunk = 2000
	// eventsTakenAtOnce is how many take raw events away at one time.
	eventsTakenAtOnce = 4
	// chunkTaken is how long whoever takes a chunk of raw events may need for it, and allTaken for all
	// of them: who is slow must not keep the others waiting.
	chunkTaken = time.Minute
	allTaken   = 20 * time.Minute
)

type figureFile struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *Server) addFigureFiles() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-table", Method: http.MethodGet, Path: "/api/pages/{page}/readings/tables/{table}",
		Summary: "Take a table of figures away as a file",
	}), s.takeTable)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "take-events", Method: http.MethodGet, Path: "/api/pages/{page}/events",
		Summary:     "Take the raw events away as a file",
		Description: "They come as they are read. X-Total-Count says how many there were; those that were deleted in time are missing.",
		Responses: map[string]*huma.Response{"200": {
			Description: "The file.",
			Content: map[string]*huma.MediaType{
				figurefile.CSV.MediaType():    {Schema: &huma.Schema{Type: "string"}},
				figurefile.NDJSON.MediaType(): {Schema: &huma.Schema{Type: "string"}},
			},
		}},
	}), s.takeEvents)
}

func (s *Server) takeTable(ctx context.Context, in *struct {
	PagePath
	RangeQuery
	Table  string            `path:"table" maxLength:"20" doc:"One of the tables of a reading, such as buttons or days."`
	Format figurefile.Format `query:"format" enum:"csv,ndjson" default:"csv"`
},
) (*figureFile, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s.Store, owner.WorkspaceID, owner.ID, span)
	if err != nil {
		return nil, problem(err)
	}
	names, err := figures.NamesOf(ctx, s.Store, owner, reading.Blocks)
	if err != nil {
		return nil, problem(err)
	}
	table, known := reading.Table(readings.TableName(in.Table), names)
	if !known {
		return nil, huma.Error404NotFound("There is no table of this name.")
	}
	var file bytes.Buffer
	if err := figurefile.WriteTable(&file, in.Format, table); err != nil {
		return nil, problem(err)
	}
	return &figureFile{in.Format.MediaType(), disposition(owner, in.Table, span, in.Format), file.Bytes()}, nil
}

// pageAndSpan are a page of the member's workspace and a range of it.
func (s *Server) pageAndSpan(ctx context.Context, id uuid.UUID, text string) (store.Page, readings.Span, error) {
	owner, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, id)
	if err != nil {
		return store.Page{}, readings.Span{}, problem(err)
	}
	span, err := s.span(ctx, id, text)
	return owner, span, err
}

// disposition names a file; an address has nothing in it that a header could not hold.
func disposition(of store.Page, what string, span readings.Span, format figurefile.Format) string {
	return fmt.Sprintf(`attachment; filename="%s-%s-%s-to-%s.%s"`, of.Address, what, span.Date(0), span.Date(span.Len()-1), format)
}

func (s *Server) takeEvents(ctx context.Context, in *struct {
	PagePath
	RangeQuery
	Format figurefile.Format `query:"format" enum:"csv,ndjson" default:"ndjson"`
},
) (*huma.StreamResponse, error) {
	owner, span, err := s.pageAndSpan(ctx, in.Page, in.Range)
	if err != nil {
		return nil, err
	}
	reading, err := rollup.Read(ctx, s.Store, owner.WorkspaceID, owner.ID, span)
	if err != nil {
		return nil, problem(err)
	}
	names, err := figures.NamesOf(ctx, s.Store, owner, reading.Blocks)
	if err != nil {
		return nil, problem(err)
	}
	member := memberOf(ctx).ID
	if !s.eventsOfMember.take(member) {
		return nil, huma.Error429TooManyRequests("You are taking events away already. Let that come to its end, or stop it, and try again.")
	}
	select {
	case s.takingEvents <- struct{}{}:
	default:
		s.eventsOfMember.give(member)
		return nil, huma.Error503ServiceUnavailable("Others are taking their events away at the moment. Try again in a minute; nothing is lost.")
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		defer func() { <-s.takingEvents; s.eventsOfMember.give(member) }()
		c.SetHeader("Content-Type", in.Format.MediaType())
		c.SetHeader("Content-Disposition", disposition(owner, "events", span, in.Format))
		c.SetHeader("X-Total-Count", strconv.Itoa(kept(reading)))
		if err := s.writeEvents(c, owner, span, in.Format, names); err != nil {
			slog.Warn("raw events were not taken away to their end", "page", owner.ID, "error", err)
			// What was sent cannot be taken back: that nothing more can be written ends the answer in
			// its midst, and tells the browser that it is not whole.
			_ = http.NewResponseController(humagin.Unwrap(c).Writer).SetWriteDeadline(time.Unix(1, 0))
		}
	}}, nil
}

// kept is how many events were kept in a span, whether they count or not.
func kept(reading readings.Reading) int {
	n := reading.Total.Views + reading.Total.Clicks
	for _, out := range reading.LeftOut {
		n += out.Views + out.Clicks
	}
	return n
}

func (s *Server) writeEvents(c huma.Context, owner store.Page, span readings.Span, format figurefile.Format, names readings.Names) error {
	to := humagin.Unwrap(c).Writer
	line := http.NewResponseController(to)
	ctx, cancel := context.WithTimeout(c.Context(), allTaken)
	defer cancel()
	file, err := figurefile.NewWriter(to, format, figurefile.EventColumns)
	if err != nil {
		return err
	}
	name := func(source string) string { return nameOfSource(names, source) }
	for day := daily.UTCDay(span.From()); day.Before(span.To()); day = day.AddDate(0, 0, 1) {
		var last store.Event
		of := store.Day{EndpointID: owner.ID, UTCDay: day}
		joined, err := s.Store.JoinedEvents(ctx, owner.WorkspaceID, of)
		if err != nil {
			return err
		}
		for {
			events, err := s.Store.EventsAfter(ctx, owner.WorkspaceID, of, span.From(), span.To(), last, eventsTogether)
			if err != nil {
				return err
			}
			for i, event := range events {
				if i%eventsAChunk == 0 {
					// The server's limits are for answers of one piece.
					_ = line.SetWriteDeadline(time.Now().Add(chunkTaken))
				}
				visit, differs := joined[event.ID]
				if !differs {
					visit.Attribution = event.Attribution
				}
				if err := file.Event(event, visit, names.Blocks[event.Block], name); err != nil {
					return err
				}
			}
			if len(events) < eventsTogether {
				break
			}
			last = events[len(events)-1]
		}
	}
	return file.Close()
}

func nameOfSource(names readings.Names, key string) string {
	if key == "" {
		return ""
	}
	if name, listed := names.Sources[key]; listed {
		return name
	}
	return key
}
