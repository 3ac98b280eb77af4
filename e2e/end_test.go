package e2e

import (
	"bufio"
	"fmt"
	"net"
	"net/http"
	"os/exec"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arvelt/demo"
)

// A server that is told to end takes no more requests and answers what is on its way; streams of events do not hold it up.
func TestWhatIsOnItsWayIsAnsweredAtTheEnd(t *testing.T) {
	s := start(t)
	at := strings.TrimPrefix(s.url, "http://")
	body := fmt.Sprintf(`{"email":"jana@pellmore.example","password":%q}`, demo.Password)
	conn, err := net.Dial("tcp", at)
	require.NoError(t, err)
	defer conn.Close()
	_, err = fmt.Fprintf(conn, "POST /api/session HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", at,
		len(body), body[:10])
	require.NoError(t, err)

	p := s.person("Jana Okell") // has a stream of events open
	defer p.Leave()
	require.NoError(t, s.cmd.Process.Signal(syscall.SIGTERM))
	require.Eventually(t, func() bool {
		more, err := net.Dial("tcp", at)
		if err == nil {
			more.Close()
		}
		return err != nil
	}, 5*time.Second, 10*time.Millisecond, "no more requests are taken")
	_, err = conn.Write([]byte(body[10:]))
	require.NoError(t, err)
	require.NoError(t, conn.SetReadDeadline(time.Now().Add(10*time.Second)))
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	require.NoError(t, err)
	res.Body.Close()
	assert.Equal(t, 200, res.StatusCode)
	conn.Close()
	require.NoError(t, s.cmd.Wait())
}

// The flag that lets the demo's people in stays on this machine.
func TestTheDemoSignInStaysOnThisMachine(t *testing.T) {
	db := demonstrated.URL(t)
	for _, env := range [][]string{{"HOST=0.0.0.0", "ARVELT_DEMO_SIGNIN=1", "ARVELT_URL=https://a.example"}, {"HOST=0.0.0.0"}, {"ARVELT_URL=nonsense"}} {
		cmd := exec.Command(binary, "serve")
		cmd.Env = append(append(cmd.Environ(), "DATABASE_URL="+db, "PORT=0"), env...)
		out, err := cmd.CombinedOutput()
		assert.Error(t, err, env)
		assert.Regexp(t, "HOST|ARVELT_URL", string(out), env)
	}
}
