package faults_test

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/nats-io/nats-server/v2/server"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"jundle/internal/cluster"
	"jundle/internal/freeport"
	"jundle/internal/store/storetest"
)

func TestKilledUnderLoadAndStartedAgainNothingAnsweredIsLost(t *testing.T) {
	t.Parallel()
	p := newProgram(t, storetest.Migrated(t))
	p.start()
	visiting := p.load(t)
	for range 3 {
		time.Sleep(time.Second)
		p.kill()
		p.start()
	}
	visiting.end()
	visiting.account("killed three times")
}

func TestWithTheDatabaseStoppedForTwentySecondsVisitorsGoOn(t *testing.T) {
	t.Parallel()
	// A folder that the database's own user can reach.
	dir, err := os.MkdirTemp("", "jundle-faults-pg-")
	require.NoError(t, err)
	t.Cleanup(func() { _ = os.RemoveAll(dir) })
	database, options := databaseIn(t, dir)
	p := newProgram(t, database.URL("jundle"))
	p.start()
	visiting := p.load(t)
	time.Sleep(time.Second)
	require.NoError(t, database.Stop())
	time.Sleep(20 * time.Second)
	assert.Equal(t, 503, ask(p.public+"/readyz"), "the health page says so")
	startDatabase(t, options)
	time.Sleep(time.Second)
	visiting.end()
	visiting.account("database away for 20 s")
	assert.Zero(t, visiting.noPage.Load(), "every page was served")
	for number, ok := range visiting.answered {
		assert.True(t, ok, "press %s was answered", number)
	}
}

// databaseIn starts a PostgreSQL of the test's own with an empty database.
func databaseIn(t *testing.T, dir string) (*cluster.Cluster, cluster.Options) {
	t.Helper()
	options := cluster.Options{Dir: filepath.Join(dir, "pg"), Throwaway: true, Port: port(t), Say: t.Logf}
	database := startDatabase(t, options)
	require.NoError(t, database.CreateDatabase(t.Context(), "jundle"))
	return database, options
}

func startDatabase(t *testing.T, options cluster.Options) *cluster.Cluster {
	t.Helper()
	database, err := cluster.Start(t.Context(), options)
	require.NoError(t, err)
	t.Cleanup(func() { _ = database.Stop() })
	return database
}

// smallDisk mounts one on a folder, or skips the test where that is not allowed.
func smallDisk(t *testing.T, dir, size string) {
	t.Helper()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "mode=0755,size="+size, "none", dir).CombinedOutput(); err != nil {
		t.Skipf("a small disk cannot be mounted here: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", "-l", dir).Run() })
}

func port(t *testing.T) int {
	var n int
	_, err := fmt.Sscanf(freeport.For(t), "127.0.0.1:%d", &n)
	require.NoError(t, err)
	return n
}

func TestWithTheLogsDiskFullVisitorsGoOnOverTheSpool(t *testing.T) {
	t.Parallel()
	data, spool := t.TempDir(), t.TempDir()
	disk := filepath.Join(data, "log")
	require.NoError(t, os.Mkdir(disk, 0o700))
	smallDisk(t, disk, "8m")
	p := newProgram(t, storetest.Migrated(t), "JUNDLE_DATA_DIR="+data, "JUNDLE_SPOOL_DIR="+spool)
	p.start()
	visiting := p.load(t)
	time.Sleep(time.Second)
	filler := filepath.Join(disk, "filler")
	fill(t, filler)
	assert.Eventually(t, func() bool { return p.health().Log != "" }, 30*time.Second, 100*time.Millisecond,
		"the health page says that the log is away")
	time.Sleep(3 * time.Second)
	require.NoError(t, os.Remove(filler))
	assert.Eventually(t, func() bool { return p.health().Log == "" }, 30*time.Second, 100*time.Millisecond, "it comes back by itself")
	time.Sleep(time.Second)
	visiting.end()
	visiting.account("disk of the log full")
	assert.Zero(t, visiting.noPage.Load(), "every page was served")
	assert.Zero(t, p.health().Shed)
}

// fill writes until nothing more goes on the disk, and a little later again.
func fill(t *testing.T, name string) {
	t.Helper()
	file, err := os.Create(name)
	require.NoError(t, err)
	defer file.Close()
	for _, size := range []int{1 << 20, 1 << 12, 1} {
		piece := make([]byte, size)
		for {
			if _, err := file.Write(piece); err != nil {
				break
			}
		}
	}
}

func TestWithOneOfThreeNodesKilledTheLogGoesOn(t *testing.T) {
	t.Parallel()
	nodes := threeNodes(t)
	p := newProgram(t, storetest.Migrated(t), "JUNDLE_NATS_URL="+strings.Join(nodes.urls, ","), "JUNDLE_NATS_REPLICAS=3")
	p.start()
	require.Eventually(t, func() bool { return p.health().Log == "" }, time.Minute, 100*time.Millisecond, "the three have found each other")
	visiting := p.load(t)
	time.Sleep(2 * time.Second)
	nodes.processes[0].kill()
	time.Sleep(6 * time.Second)
	visiting.end()
	visiting.account("one of three nodes killed")
	assert.Zero(t, visiting.noPage.Load(), "every page was served")
	assert.Zero(t, p.health().Shed)
}

type node struct{ *exec.Cmd }

func (n node) kill() {
	_ = n.Process.Signal(syscall.SIGKILL)
	_ = n.Wait()
}

type threeServers struct {
	urls      []string
	processes []node
}

// threeNodes starts a cluster of three JetStream servers, each a process of its
// own: this test's program, told by its environment to be a server.
func threeNodes(t *testing.T) threeServers {
	t.Helper()
	var servers threeServers
	var routes []string
	clients, joints := []string{freeport.For(t), freeport.For(t), freeport.For(t)}, []string{freeport.For(t), freeport.For(t), freeport.For(t)}
	for i := range clients {
		servers.urls = append(servers.urls, "nats://"+clients[i])
		routes = append(routes, "nats://"+joints[i])
	}
	for i := range clients {
		dir := t.TempDir()
		config := fmt.Sprintf("server_name: n%d\nlisten: %s\njetstream { store_dir: %q }\ncluster { name: jundle, listen: %s, routes: [%s] }\n",
			i, clients[i], dir, joints[i], strings.Join(routes, ", "))
		file := filepath.Join(dir, "node.conf")
		require.NoError(t, os.WriteFile(file, []byte(config), 0o600))
		process := exec.Command(os.Args[0])
		process.Env = append(os.Environ(), nodeConfig+"="+file)
		require.NoError(t, process.Start())
		servers.processes = append(servers.processes, node{process})
		t.Cleanup(func() {
			if process.ProcessState == nil {
				node{process}.kill()
			}
		})
	}
	return servers
}

const nodeConfig = "JUNDLE_FAULTS_NODE"

func TestMain(m *testing.M) {
	if file := os.Getenv(nodeConfig); file != "" {
		options, err := server.ProcessConfigFile(file)
		if err != nil {
			panic(err)
		}
		options.NoSigs = true
		srv, err := server.NewServer(options)
		if err != nil {
			panic(err)
		}
		srv.Start()
		srv.WaitForShutdown()
		return
	}
	os.Exit(m.Run())
}
