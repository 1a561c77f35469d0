package studio

import (
	"context"
	"errors"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"jundle/internal/app/pages"
	"jundle/internal/core/address"
	"jundle/internal/core/look"
	"jundle/internal/core/page"
	"jundle/internal/core/paste"
	"jundle/internal/core/picture"
	"jundle/internal/core/window"
	"jundle/internal/render"
	"jundle/internal/store"
)

// PageState is a page as Arrange works on it.
type PageState struct {
	ID          uuid.UUID       `json:"id"`
	Address     string          `json:"address"`
	Revision    int64           `json:"revision" doc:"Sent back with every write; a write made on an older one gets 409."`
	SavedAs     string          `json:"savedAs" doc:"What the client called the save that made this revision; may be empty."`
	Document    page.Document   `json:"document"`
	Strip       render.Strip    `json:"strip"`
	LiveEdition int             `json:"liveEdition" doc:"Number of the published edition, 0 before the first."`
	Changes     []page.Change   `json:"changes" nullable:"false" doc:"What publishing would change, in words."`
	Contrast    []look.Figure   `json:"contrast" nullable:"false" doc:"Every text and edge against the worst point under it."`
	Remedy      *look.Remedy    `json:"remedy,omitempty" doc:"Another background, where no colour of text can be read on the present one."`
	Limits      page.Limits     `json:"limits"`
	RunsCodes   bool            `json:"runsCodes" doc:"Tracking codes run where it stands: on an own domain, or where the service lets them."`
	Ribbon      Ribbon          `json:"ribbon"`
	Takeovers   []TakeoverState `json:"takeovers" nullable:"false" doc:"What takes its place, now or later; what was set last wins."`
	Resting     *page.Resting   `json:"resting,omitempty" doc:"Set while it rests."`
	AsEdited    bool            `json:"asEdited" doc:"Each saved change goes live by itself within two seconds."`
	DeleteAt    *time.Time      `json:"deleteAt,omitempty" doc:"When it is gone for good, of a page that was deleted."`
	TakenDown   *TakenDown      `json:"takenDown,omitempty" doc:"Set while whoever runs the service keeps it from visitors."`
}

// TakenDown is since when something is kept from visitors by whoever runs the service, and why.
type TakenDown struct {
	At      time.Time `json:"at"`
	Because string    `json:"because"`
}

// Ribbon is when the blocks show that do so at certain times only, as it is drawn
// beside them.
type Ribbon struct {
	From   time.Time             `json:"from" doc:"Where it begins; a week ago unless it was asked for otherwise."`
	To     time.Time             `json:"to" doc:"Where it ends; in four weeks."`
	Blocks map[string]RibbonPart `json:"blocks" nullable:"false" doc:"By the key of the block."`
	Page   *RibbonPart           `json:"page,omitempty" doc:"Of the page as a whole, where it shows at certain times only."`
}

// ribbonSpan is how far back and ahead a ribbon goes.
type ribbonSpan struct{ past, ahead time.Duration }

const day = 24 * time.Hour

// ribbonSpans are those that can be chosen, by name.
var ribbonSpans = map[string]ribbonSpan{
	"hours": {12 * time.Hour, 36 * time.Hour}, "weeks": {7 * day, 28 * day}, "months": {60 * day, 120 * day},
}

// RibbonPart is what of the ribbon is one block's.
type RibbonPart struct {
	State window.State  `json:"state" enum:"in force,before,over" doc:"How it stands now."`
	Next  *time.Time    `json:"next,omitempty" doc:"When that changes next, where it can be foreseen."`
	Spans []window.Span `json:"spans" nullable:"false" doc:"In order, within the ribbon."`
}

func ribbonOf(document page.Document, now time.Time, over ribbonSpan) Ribbon {
	ribbon := Ribbon{From: now.Add(-over.past), To: now.Add(over.ahead), Blocks: make(map[string]RibbonPart)}
	if document.When != nil {
		whole := ribbon.part(*document.When, now)
		ribbon.Page = &whole
	}
	for _, block := range document.Blocks {
		if block.When != nil {
			ribbon.Blocks[block.Key] = ribbon.part(*block.When, now)
		}
	}
	return ribbon
}

// part is how times stand on the ribbon.
func (r Ribbon) part(times window.Times, now time.Time) RibbonPart {
	part := RibbonPart{State: times.StateAt(now), Spans: []window.Span{}}
	if next := times.Next(now); !next.IsZero() {
		part.Next = &next
	}
	for _, each := range toBeSeen(times.Between(r.From, r.To), r.To.Sub(r.From)) {
		part.Spans = append(part.Spans, window.Span{From: each.From, To: each.To})
	}
	return part
}

// partsSeen is how many parts of a ribbon can be told apart at most.
const partsSeen = 200

// toBeSeen joins windows with so little between them that it could not be seen, where
// there are very many.
func toBeSeen(windows []window.Window, over time.Duration) []window.Window {
	if len(windows) <= partsSeen {
		return windows
	}
	joined := windows[:1]
	for _, w := range windows[1:] {
		if last := &joined[len(joined)-1]; w.From.Sub(last.To) < over/partsSeen {
			last.To = w.To
		} else {
			joined = append(joined, w)
		}
	}
	return joined
}

// StalePage is the answer to a write made on an older revision: what happened,
// and the page as it stands.
type StalePage struct {
	huma.ErrorModel
	Current PageState `json:"current"`
}

// PagePath names the page an operation is about.
type PagePath struct {
	Page uuid.UUID `path:"page"`
}

type pageOutput struct{ Body PageState }

func (s *Server) addPages() {
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-page", Method: http.MethodGet, Path: "/api/pages/{page}", Summary: "Get a page's working copy",
	}), func(ctx context.Context, in *PagePath) (*pageOutput, error) {
		found, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
		return s.pageOutput(ctx, found, err)
	})
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "get-ribbon", Method: http.MethodGet, Path: "/api/pages/{page}/ribbon", Summary: "Get when the working copy's blocks show",
	}), func(ctx context.Context, in *struct {
		PagePath
		Over string `query:"over" enum:"hours,weeks,months" default:"weeks" doc:"Two days, five weeks or six months."`
	},
	) (*struct{ Body Ribbon }, error) {
		found, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
		if err != nil {
			return nil, problem(err)
		}
		return &struct{ Body Ribbon }{ribbonOf(found.Draft, s.Now(), ribbonSpans[in.Over])}, nil
	})
	huma.Register(s.api, s.forMember(s.mayBeStale(huma.Operation{
		OperationID: "save-draft", Method: http.MethodPut, Path: "/api/pages/{page}/draft", Summary: "Replace the working copy",
		MaxBodyBytes: draftBody,
	})), s.saveDraft)
	huma.Register(s.api, s.forMember(s.mayBeStale(huma.Operation{
		OperationID: "publish", Method: http.MethodPost, Path: "/api/pages/{page}/publish", Summary: "Make an edition out of the working copy",
	})), s.publish)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "change-address", Method: http.MethodPut, Path: "/api/pages/{page}/address",
		Summary: "Give the page another address; old ones keep leading to it",
	}), s.changeAddress)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "read-paste", Method: http.MethodPost, Path: "/api/pages/{page}/paste",
		Summary: "Make blocks out of what was pasted, line by line, without adding them or fetching anything", MaxBodyBytes: pasteBody,
	}), s.readPaste)
	huma.Register(s.api, s.forMember(huma.Operation{
		OperationID: "describe", Method: http.MethodPost, Path: "/api/describe", Summary: "Fetch the title and picture a site offers for itself",
	}), s.describe)
}

// mayBeStale declares the 409 of an operation that carries a revision.
func (s *Server) mayBeStale(operation huma.Operation) huma.Operation {
	schema := s.api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[StalePage](), true, "StalePage")
	operation.Responses = map[string]*huma.Response{
		"409": {Description: "Made on an older revision", Content: map[string]*huma.MediaType{"application/problem+json": {Schema: schema}}},
	}
	return operation
}

// AddressInput carries a page address.
type AddressInput struct {
	Body struct {
		Address string `json:"address" maxLength:"200" doc:"3 to 40 of a-z, 0-9 and hyphen."`
	}
}

func (s *Server) changeAddress(ctx context.Context, in *struct {
	PagePath
	AddressInput
},
) (*pageOutput, error) {
	changed, err := s.pages.Readdress(ctx, memberOf(ctx).WorkspaceID, in.Page, in.Body.Address)
	about(ctx, changed.Address)
	return s.pageOutput(ctx, changed, err)
}

func (s *Server) saveDraft(ctx context.Context, in *struct {
	PagePath
	Body struct {
		Revision int64         `json:"revision"`
		Document page.Document `json:"document"`
		As       string        `json:"as,omitempty" maxLength:"40" doc:"Names this save, to know it again when the answer is lost."`
		Steps    []StepTaken   `json:"steps,omitempty" maxItems:"200" doc:"What it did, in order, so that it can be undone later and elsewhere."`
	}
},
) (*pageOutput, error) {
	saved, err := s.pages.Save(ctx, memberOf(ctx), in.Page,
		pages.Saving{Revision: in.Body.Revision, Document: in.Body.Document, As: in.Body.As, Steps: stepsTaken(in.Body.Steps)})
	if err == nil && saved.AsEdited {
		s.goingLive.soon(saved.WorkspaceID, saved.ID)
	}
	return s.pageOutput(ctx, saved, err)
}

func (s *Server) publish(ctx context.Context, in *struct {
	PagePath
	Body struct {
		Revision  int64 `json:"revision" doc:"The revision whose changes were read."`
		EndsLinks bool  `json:"endsLinks,omitempty" doc:"What is taken off stops leading at once, and not a day after."`
	}
},
) (*pageOutput, error) {
	published, err := s.pages.Publish(ctx, memberOf(ctx), in.Page,
		store.Publishing{Revision: in.Body.Revision, EndsLinks: in.Body.EndsLinks})
	about(ctx, strconv.Itoa(published.LiveEdition))
	return s.pageOutput(ctx, published, err)
}

// pageOutput answers with a page, or with what went wrong in getting it.
func (s *Server) pageOutput(ctx context.Context, found store.Page, err error) (*pageOutput, error) {
	stale := errors.Is(err, store.ErrStale)
	if err != nil && !stale {
		return nil, problem(err)
	}
	state, err := s.pageState(ctx, found)
	if err != nil {
		return nil, problem(err)
	}
	if stale {
		return nil, &StalePage{
			ErrorModel: huma.ErrorModel{
				Title: http.StatusText(http.StatusConflict), Status: http.StatusConflict,
				Detail: "The page was changed elsewhere in the meantime. Your last change was not saved over it.",
			},
			Current: state,
		}
	}
	return &pageOutput{state}, nil
}

func (s *Server) pageState(ctx context.Context, found store.Page) (PageState, error) {
	named := page.Named(found.Draft, found.Address)
	strip, err := render.Fragments(named, s.Now())
	if err != nil {
		return PageState{}, err
	}
	var live *page.Document
	edition, err := s.Store.LiveEdition(ctx, found.WorkspaceID, found.ID)
	switch {
	case err == nil:
		live = &edition.Document
	case !errors.Is(err, store.ErrNotFound):
		return PageState{}, err
	}
	var resting *page.Resting
	if live != nil {
		resting = live.Resting
	}
	takenDown, err := s.takenDown(ctx, found.WorkspaceID, found.ID)
	if err != nil {
		return PageState{}, err
	}
	origin, err := s.pageOrigin(ctx)
	if err != nil {
		return PageState{}, err
	}
	changes := page.Changes(live, named)
	if changes == nil {
		changes = []page.Change{}
	}
	return PageState{
		ID:          found.ID,
		Address:     found.Address,
		Revision:    found.Revision,
		SavedAs:     found.SavedAs,
		Document:    found.Draft.WithoutItems(),
		Strip:       strip,
		LiveEdition: found.LiveEdition,
		Changes:     changes,
		Contrast:    found.Draft.Contrast(),
		Remedy:      look.GroundRemedy(found.Draft.Look),
		Limits:      page.EditorLimits(),
		RunsCodes:   s.TrackingCodes || origin != s.PublicOrigin,
		Ribbon:      ribbonOf(found.Draft, s.Now(), ribbonSpans["weeks"]),
		Takeovers:   takeoversOf(found.Takeovers, live, s.Now()),
		Resting:     resting,
		AsEdited:    found.AsEdited,
		DeleteAt:    found.DeleteAt,
		TakenDown:   takenDown,
	}, nil
}

func (s *Server) takenDown(ctx context.Context, workspace, endpoint uuid.UUID) (*TakenDown, error) {
	at, because, err := s.Store.TakenDown(ctx, workspace, endpoint)
	if err != nil || at == nil {
		return nil, err
	}
	return &TakenDown{*at, because}, nil
}

// Pasted is what was made of one pasted line.
type Pasted struct {
	Given   string      `json:"given" doc:"The line as it was pasted."`
	Block   *page.Block `json:"block,omitempty" doc:"Absent where nothing could be made of it."`
	Message string      `json:"message,omitempty" doc:"Why nothing could be made of it, or why it is unsure."`
	Unsure  bool        `json:"unsure" doc:"It may be something else, or is there twice: not to be added unless it is asked for."`
	Titled  bool        `json:"titled" doc:"Whether a title was pasted with it, so that none need be fetched."`
	Already []string    `json:"already" nullable:"false" doc:"Keys of the page's blocks that lead to the same destination."`
}

func (s *Server) readPaste(ctx context.Context, in *struct {
	PagePath
	Body struct {
		Text string `json:"text" maxLength:"40000" doc:"What was pasted: one or several lines."`
	}
},
) (*listOutput[Pasted], error) {
	target, err := s.Store.Page(ctx, memberOf(ctx).WorkspaceID, in.Page)
	if err != nil {
		return nil, problem(err)
	}
	lines := []Pasted{}
	for _, entry := range paste.Read(in.Body.Text) {
		line := Pasted{Given: entry.Given, Message: entry.Message, Unsure: entry.Unsure, Titled: entry.Title != "", Already: []string{}}
		if block, ok := page.FromPaste(pages.NewKey(), entry); ok {
			line.Block, line.Already = &block, target.Draft.LeadsTo(entry.Link.URL)
		}
		lines = append(lines, line)
	}
	return &listOutput[Pasted]{lines}, nil
}

// Description is what a site says of itself.
type Description struct {
	Title   string           `json:"title" doc:"Empty when none could be had."`
	Picture *picture.Picture `json:"picture,omitempty" doc:"Kept whole; absent when the site offers none."`
	Player  *page.Player     `json:"player,omitempty" doc:"The block that plays it; absent where nothing there is played."`
	Feed    bool             `json:"feed,omitempty" doc:"It is a feed, to be taken in by find-feed."`
}

func (s *Server) describe(ctx context.Context, in *struct {
	Body struct {
		Address string `json:"address" maxLength:"2048"`
	}
},
) (*struct{ Body Description }, error) {
	link, err := address.ParseLink(in.Body.Address)
	if err != nil {
		return nil, refuse("address", err.Error())
	}
	answer := &struct{ Body Description }{}
	if !link.IsWeb() || !s.limits.mayFetch(memberOf(ctx).WorkspaceID.String()) {
		return answer, nil
	}
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	done, err := s.describing.Take(ctx, memberOf(ctx).WorkspaceID)
	if err != nil {
		return answer, nil //nolint:nilerr // the button does without, as where the site does not answer
	}
	defer done()
	found, err := s.Outbound.Describe(ctx, link.URL)
	if err != nil {
		// The button keeps the title made from its host; nothing is lost.
		return answer, nil //nolint:nilerr // a site that does not answer is no fault of the request
	}
	answer.Body.Title = firstOf(found.Title, page.MaxTitle)
	answer.Body.Feed = found.Feed
	if found.Picture != nil {
		answer.Body.Picture = s.keepFetched(ctx, found.Picture)
	}
	if film := found.Player; film != nil {
		answer.Body.Player = &page.Player{
			Title: answer.Body.Title, Address: link.URL, Provider: firstOf(film.Provider, 60), Still: answer.Body.Picture,
			Frame: film.Frame, Width: film.Width, Height: film.Height,
		}
	}
	return answer, nil
}

// firstOf is as much of a text as has room.
func firstOf(text string, most int) string {
	runes := []rune(strings.TrimSpace(text))
	return string(runes[:min(len(runes), most)])
}
