package certificates

import (
	"context"
	"io/fs"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/store/storetest"
)

func TestWhatIsKeptIsThereForAllProcesses(t *testing.T) {
	shared := storetest.New(t)
	one, other := newStorage(shared), newStorage(shared)
	for name, content := range map[string]string{
		"certificates/issuer/a.example/a.example.crt": "certificate", "certificates/issuer/a.example/a.example.key": "key",
		"certificates/issuer/a.example.org/a.crt": "another", "acme/issuer/users/a.json": "account",
	} {
		require.NoError(t, one.Store(t.Context(), name, []byte(content)))
	}
	read, err := other.Load(t.Context(), "certificates/issuer/a.example/a.example.key")
	require.NoError(t, err)
	assert.Equal(t, "key", string(read))
	info, err := other.Stat(t.Context(), "certificates/issuer/a.example/a.example.key")
	require.NoError(t, err)
	assert.Equal(t, int64(3), info.Size)
	assert.WithinDuration(t, time.Now(), info.Modified, time.Minute)

	direct, err := other.List(t.Context(), "certificates/issuer", false)
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{"certificates/issuer/a.example", "certificates/issuer/a.example.org"}, direct)
	whole, err := other.List(t.Context(), "certificates/issuer/a.example", true)
	require.NoError(t, err)
	assert.Len(t, whole, 2)

	require.NoError(t, one.Delete(t.Context(), "certificates/issuer/a.example"))
	assert.False(t, other.Exists(t.Context(), "certificates/issuer/a.example/a.example.key"))
	assert.True(t, other.Exists(t.Context(), "certificates/issuer/a.example.org/a.crt"), "what only begins like it stays")
	_, err = other.Load(t.Context(), "certificates/issuer/a.example/a.example.key")
	assert.ErrorIs(t, err, fs.ErrNotExist, "as the library wants it said")
}

func TestALockKeepsOthersOutUntilItIsGivenBack(t *testing.T) {
	shared := storetest.New(t)
	one, other := newStorage(shared), newStorage(shared)
	require.NoError(t, one.Lock(t.Context(), "issue a.example"))
	require.NoError(t, other.Lock(t.Context(), "issue b.example"), "of another name it is another lock")
	impatient, cancel := context.WithTimeout(t.Context(), 500*time.Millisecond)
	defer cancel()
	require.ErrorIs(t, other.Lock(impatient, "issue a.example"), context.DeadlineExceeded)
	require.Error(t, other.Unlock(t.Context(), "issue a.example"), "nor can they give it back")
	require.NoError(t, one.Unlock(t.Context(), "issue a.example"))
	require.NoError(t, other.Lock(t.Context(), "issue a.example"))
	require.NoError(t, other.Unlock(t.Context(), "issue a.example"))
	require.NoError(t, other.Unlock(t.Context(), "issue b.example"))
}

func TestALockOfAProcessThatEndedHoldsForHalfAMinuteOnly(t *testing.T) {
	shared := storetest.New(t)
	one, other := newStorage(shared), newStorage(shared)
	require.NoError(t, one.Lock(t.Context(), "issue a.example"))
	one.held["issue a.example"].stop() // it is killed, and takes it anew no more
	_, err := shared.Pool().Exec(t.Context(), "update certificate_locks set until = now() - interval '1 second'")
	require.NoError(t, err)
	assert.NoError(t, other.Lock(t.Context(), "issue a.example"))
	assert.NoError(t, other.Unlock(t.Context(), "issue a.example"))
}
