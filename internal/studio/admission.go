package studio

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"unicode/utf8"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/google/uuid"

	"jundle/internal/clients"
	"jundle/internal/store"
)

// Limits on the bodies of requests, in bytes. An operation that says nothing has
// the first.
const (
	usualBody = 16 << 10
	// credentialsBody is enough for an e-mail address and the longest password.
	credentialsBody = 4 << 10
	// draftBody is a page as large as it may be (page.MaxBytes) with room for how
	// JSON writes it.
	draftBody = 768 << 10
	listBody  = 640 << 10
	pasteBody = 96 << 10
)

// memberSession names the security scheme of operations that act for a member.
const memberSession = "session"

// programToken names that of operations that a program may do for a member.
const programToken = "token"

// admit lets a request through to an operation, the cheapest question first: who
// asks, how often, whether they may, how much they send, and whether it is JSON that could be
// meant. Nothing of a body is parsed before.
func (s *Server) admit(ctx huma.Context, next func(huma.Context)) {
	operation := ctx.Operation()
	who := clients.Network(humagin.Unwrap(ctx).ClientIP())
	if len(operation.Security) > 0 {
		token, isProgram := bearer(ctx)
		var member store.Member
		var err error
		if isProgram {
			member, err = s.memberOfToken(ctx.Context(), token)
		} else {
			member, err = s.memberOfSession(ctx)
		}
		if err == nil && member.SuspendedAt != nil {
			err = store.ErrNotFound
		}
		switch {
		case errors.Is(err, store.ErrNotFound) && isProgram:
			ctx.SetHeader("WWW-Authenticate", `Bearer realm="jundle", error="invalid_token"`)
			s.refuse(ctx, huma.Error401Unauthorized("This token does not hold: it was ended, is over, or never was. Make another in the settings."))
			return
		case errors.Is(err, store.ErrNotFound):
			s.refuse(ctx, huma.Error401Unauthorized("You are signed out. Sign in to go on; nothing that was saved is lost."))
			return
		case err != nil:
			s.refuse(ctx, problem(err))
			return
		}
		// A program does not use up what its owner may.
		ctx, who = huma.WithValue(ctx, memberKey{}, member), member.ID.String()+" "+member.Program
	}
	err := s.limits.takeRequest(who)
	for name, value := range s.limits.left(who) {
		ctx.SetHeader(name, value)
	}
	if err != nil {
		s.refuse(ctx, err)
		return
	}
	if member, signedIn := ctx.Context().Value(memberKey{}).(store.Member); signedIn {
		if err := permit(member, ctx); err != nil {
			s.refuse(ctx, err)
			return
		}
	}
	if !readable(humagin.Unwrap(ctx).Request.URL) {
		s.refuse(ctx, huma.Error400BadRequest("There is something in this address that is no text. Nothing was changed."))
		return
	}
	switch {
	case operation.RequestBody == nil:
	case operation.RequestBody.Content["application/json"] != nil:
		if err := admitJSON(ctx); err != nil {
			s.refuse(ctx, err)
			return
		}
	default:
		file, err := s.takeUpload(ctx)
		if err != nil {
			s.refuse(ctx, err)
			return
		}
		defer file.Close()
		ctx = huma.WithValue(ctx, uploadKey{}, file)
	}
	if member, signedIn := ctx.Context().Value(memberKey{}).(store.Member); signedIn {
		done, err := s.costs.begin(ctx.Context(), operation.OperationID, member)
		if err != nil {
			s.refuse(ctx, err)
			return
		}
		defer done()
		s.once(ctx, member, func(ctx huma.Context) { s.withJournal(ctx, member, next) })
		return
	}
	next(ctx)
}

// readable tells whether an address is text all through, without NUL.
func readable(address *url.URL) bool {
	query, err := url.QueryUnescape(address.RawQuery)
	return err == nil && utf8.ValidString(address.Path+query) && !strings.ContainsRune(address.Path+query, 0)
}

// memberOfSession finds who is signed in; store.ErrNotFound when nobody is.
func (s *Server) memberOfSession(ctx huma.Context) (store.Member, error) {
	id, err := uuid.Parse(s.sessions.GetString(ctx.Context(), store.SessionUser))
	if err != nil {
		return store.Member{}, store.ErrNotFound
	}
	workspace, _ := uuid.Parse(s.sessions.GetString(ctx.Context(), store.SessionWorkspace))
	return s.Store.MemberIn(ctx.Context(), id, workspace)
}

// admitJSON reads the body, no more of it than the operation takes, and puts it
// where it is read again.
func admitJSON(ctx huma.Context) error {
	operation, request := ctx.Operation(), humagin.Unwrap(ctx).Request
	tooLarge := huma.NewError(http.StatusRequestEntityTooLarge, tooLargeWords(operation))
	if request.ContentLength > operation.MaxBodyBytes {
		return tooLarge
	}
	body, err := io.ReadAll(io.LimitReader(request.Body, operation.MaxBodyBytes+1))
	if int64(len(body)) > operation.MaxBodyBytes {
		return tooLarge
	}
	if err != nil {
		return brokenOff(err)
	}
	if err := checkJSON(body); err != nil {
		return huma.Error400BadRequest(sentence(err))
	}
	request.Body = io.NopCloser(bytes.NewReader(body))
	return nil
}

// refuse writes an error as an answer, with its headers.
func (s *Server) refuse(ctx huma.Context, err error) {
	var with huma.HeadersError
	if errors.As(err, &with) {
		for name, values := range with.GetHeaders() {
			for _, value := range values {
				ctx.AppendHeader(name, value)
			}
		}
	}
	var status huma.StatusError
	if !errors.As(err, &status) {
		status = huma.Error500InternalServerError(err.Error())
	}
	// What is left of the body is not waited for.
	ctx.SetHeader("Connection", "close")
	_ = huma.WriteErr(s.api, ctx, status.GetStatus(), status.Error())
}

// inWords is a number of bytes as people say it.
func inWords(bytes int64) string {
	if bytes >= 1<<20 {
		return fmt.Sprintf("%d MB", bytes>>20)
	}
	return fmt.Sprintf("%d kB", bytes>>10)
}
