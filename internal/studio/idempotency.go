package studio

import (
	"bytes"
	"context"
	"crypto/sha256"
	"io"
	"log/slog"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"github.com/gin-gonic/gin"

	"jundle/internal/store"
)

const (
	// keyHeader carries the key of a request (draft-ietf-httpapi-idempotency-key-header).
	keyHeader  = "Idempotency-Key"
	longestKey = 100
	// answerKept is how much of an answer is kept, in bytes; of a longer one only that it was given.
	answerKept = 512 << 10
	// onceWithin is how long who sends a request again waits for the first, and onceAgain when it looks anew.
	onceWithin = 20 * time.Second
	onceAgain  = 50 * time.Millisecond
)

// secrets are operations whose answers show something once: they are kept nowhere.
var secrets = map[string]bool{"add-webhook": true, "renew-webhook-secret": true, "add-api-token": true}

// alsoOnce are operations that make something and are not in the journal. What only reads or looks needs no key: who looks
// again wants to know how it is now.
var alsoOnce = map[string]bool{"add-theme": true, "open-workspace": true}

// once does a request with a key once, however often it is sent: a press that is repeated on a slow line gets the answer
// of the first. Whoever sends another request with the same key is refused.
func (s *Server) once(ctx huma.Context, member store.Member, next func(huma.Context)) {
	key, operation := ctx.Header(keyHeader), ctx.Operation()
	isUpload := operation.RequestBody != nil && operation.RequestBody.Content["application/json"] == nil
	makes := journaled[operation.OperationID] || alsoOnce[operation.OperationID]
	if key == "" || !makes || isUpload || operation.Method != http.MethodPost {
		next(ctx)
		return
	}
	if len(key) > longestKey {
		s.refuse(ctx, huma.Error422UnprocessableEntity("An idempotency key has at most 100 characters. Nothing was changed."))
		return
	}
	owner := member.ID.String() + " " + member.WorkspaceID.String() + " " + member.Program
	request, err := digestOfRequest(ctx)
	if err != nil {
		s.refuse(ctx, huma.Error400BadRequest("The request could not be read. Nothing was changed."))
		return
	}
	begun, before, err := s.beginOnce(ctx.Context(), owner, key, request)
	switch {
	case err != nil:
		s.refuse(ctx, problem(err))
		return
	case !begun:
		s.answerAgain(ctx, request, before)
		return
	}
	writer := &capturing{ResponseWriter: humagin.Unwrap(ctx).Writer}
	humagin.Unwrap(ctx).Writer = writer
	finished := false
	defer func() {
		status := writer.Status()
		if !finished || status >= http.StatusInternalServerError || status == http.StatusTooManyRequests {
			status = 0 // it may be tried again
		}
		kept := writer.body.Bytes()
		if secrets[operation.OperationID] || writer.body.Len() > answerKept {
			kept = nil
		}
		if err := s.Store.EndOnce(context.WithoutCancel(ctx.Context()), owner, key, status, kept); err != nil {
			slog.Error("what was answered could not be kept under its key", "operation", operation.OperationID, "error", err)
		}
	}()
	next(ctx)
	finished = true
}

// beginOnce waits for another request with the same key that is being done.
func (s *Server) beginOnce(ctx context.Context, owner, key string, request []byte) (bool, store.Answered, error) {
	ctx, cancel := context.WithTimeout(ctx, onceWithin)
	defer cancel()
	for {
		begun, before, err := s.Store.BeginOnce(ctx, owner, key, request, s.Now())
		if err != nil || begun || before.Status != 0 || len(before.Request) > 0 && !bytes.Equal(before.Request, request) {
			return begun, before, err
		}
		if !pause(ctx, onceAgain) {
			return false, before, ctx.Err()
		}
	}
}

func (s *Server) answerAgain(ctx huma.Context, request []byte, before store.Answered) {
	switch {
	case !bytes.Equal(before.Request, request):
		s.refuse(ctx, huma.Error422UnprocessableEntity("This idempotency key belongs to another request. Nothing was changed."))
	case before.Body == nil && before.Status != http.StatusNoContent:
		s.refuse(ctx, huma.Error409Conflict("This was sent twice and done once. Load the page again to see it."))
	default:
		kind := "application/json"
		if before.Status >= http.StatusBadRequest {
			kind = "application/problem+json"
		}
		ctx.SetHeader("Content-Type", kind)
		ctx.SetStatus(before.Status)
		_, _ = ctx.BodyWriter().Write(before.Body)
	}
}

// digestOfRequest tells requests apart by operation, address and body, which is put back to be read.
func digestOfRequest(ctx huma.Context) ([]byte, error) {
	request := humagin.Unwrap(ctx).Request
	digest := sha256.New()
	_, _ = io.WriteString(digest, ctx.Operation().OperationID+" "+request.URL.RequestURI()+"\n")
	if request.Body != nil && ctx.Operation().RequestBody != nil {
		body, err := io.ReadAll(request.Body)
		if err != nil {
			return nil, err
		}
		_, _ = digest.Write(body)
		request.Body = io.NopCloser(bytes.NewReader(body))
	}
	return digest.Sum(nil), nil
}

// capturing keeps a copy of what is answered, as much of it as is kept.
type capturing struct {
	gin.ResponseWriter
	body bytes.Buffer
}

// Write implements io.Writer.
func (w *capturing) Write(data []byte) (int, error) {
	if w.body.Len() <= answerKept {
		w.body.Write(data)
	}
	return w.ResponseWriter.Write(data)
}

// WriteString implements io.StringWriter.
func (w *capturing) WriteString(text string) (int, error) { return w.Write([]byte(text)) }

// Unwrap lets the writer beneath be found.
func (w *capturing) Unwrap() http.ResponseWriter { return w.ResponseWriter }
