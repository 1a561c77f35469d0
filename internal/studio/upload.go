package studio

import (
	"errors"
	"io"
	"net"
	"net/http"
	"os"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
)

// Upload is a file as it comes. It goes to the disk of this machine first, so that
// many at once, or slow ones, take no memory.
type Upload struct{ file *os.File }

type uploadKey struct{}

// Resolve implements huma.Resolver: admit took the file in.
func (u *Upload) Resolve(ctx huma.Context) []error {
	u.file, _ = ctx.Context().Value(uploadKey{}).(*os.File)
	return nil
}

// slowestUpload is what has to come of an upload, on average, to be waited for, in
// bytes a second: a phone far from everything.
const slowestUpload = 8 << 10

func uploadDeadline(size int64) time.Time {
	return time.Now().Add(time.Minute + time.Duration(size/slowestUpload)*time.Second)
}

// takeUpload takes a file in, no more of it than its operation takes. Whoever asks
// closes it.
func (s *Server) takeUpload(ctx huma.Context) (*os.File, error) {
	if err := s.limits.takeUpload(memberOf(ctx.Context()).WorkspaceID.String()); err != nil {
		return nil, err
	}
	request, most := humagin.Unwrap(ctx).Request, ctx.Operation().MaxBodyBytes
	connection := http.NewResponseController(humagin.Unwrap(ctx).Writer)
	_ = connection.SetReadDeadline(uploadDeadline(most))
	// What is done with it afterwards has time.
	defer func() { _ = connection.SetReadDeadline(time.Time{}) }()
	tooLarge := huma.NewError(http.StatusRequestEntityTooLarge, tooLargeWords(ctx.Operation()))
	if request.ContentLength > most {
		return nil, tooLarge
	}
	file, err := os.CreateTemp("", "jundle-upload-*")
	if err != nil {
		return nil, problem(err)
	}
	// Its name is gone at once, and the file with whoever holds it.
	_ = os.Remove(file.Name())
	size, err := io.Copy(file, io.LimitReader(request.Body, most+1))
	if err == nil {
		_, err = file.Seek(0, io.SeekStart)
	}
	switch {
	case size > most:
		err = tooLarge
	case err != nil:
		err = brokenOff(err)
	}
	if err != nil {
		_ = file.Close()
		return nil, err
	}
	return file, nil
}

// brokenOff words an error in reading what was sent.
func brokenOff(err error) error {
	var network net.Error
	if errors.As(err, &network) && network.Timeout() {
		return huma.NewError(http.StatusRequestTimeout,
			"What was sent did not arrive in time. Nothing was changed; try again, perhaps where the connection is better.")
	}
	return huma.Error400BadRequest("What was sent did not arrive whole. Nothing was changed; try again.")
}

// all is the whole file, for what has to be looked at whole. Whoever asks has a
// turn to unpack a picture.
func (u *Upload) all() ([]byte, error) {
	if _, err := u.file.Seek(0, io.SeekStart); err != nil {
		return nil, err
	}
	return io.ReadAll(u.file)
}

// head is how the file begins.
func (u *Upload) head(size int) ([]byte, error) {
	head := make([]byte, size)
	n, err := u.file.ReadAt(head, 0)
	if errors.Is(err, io.EOF) {
		err = nil
	}
	return head[:n], err
}

// uploading is an operation that takes a file of so many bytes at most; says is
// the answer to a larger one.
func (s *Server) uploading(operation huma.Operation, most int64, says string) huma.Operation {
	operation.MaxBodyBytes = most
	operation.Metadata = map[string]any{tooLargeKey: says}
	operation.RequestBody = &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{
		"application/octet-stream": {Schema: &huma.Schema{Type: huma.TypeString, Format: "binary"}},
	}}
	return s.forMember(operation)
}

const tooLargeKey = "says of a file that is too large"

// tooLargeWords is what an operation says of more than it takes.
func tooLargeWords(operation *huma.Operation) string {
	if says, ok := operation.Metadata[tooLargeKey].(string); ok {
		return says + " Nothing was changed."
	}
	return "This is more than the " + inWords(operation.MaxBodyBytes) + " that can be sent here. Nothing was changed."
}
