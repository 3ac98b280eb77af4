package api_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"arvelt/api"
	"arvelt/demo"
)

func TestWhatIsGuessedFirstIsNoPassword(t *testing.T) {
	own := []string{"Jana Okell", "jana@pellmore.example", "Pellmore Wiring"}
	for _, bad := range []string{"", "short", "elevenchars", "aaaaaaaaaaaaaa", "            ", "123456789012", "passwordpassword", "P@ssw0rd2026!!",
		"qwertyuiop123", "Iloveyou123456", "summer2026summer", "jana-okell-1990", "Pellmore2026!", "welcome-welcome-1", "letmein letmein",
		strings.Repeat("é", 40), strings.Repeat("véz", 12), "bad\xffbytes-in-it-here"} {
		err := api.CheckPassword(bad, own...)
		if assert.Error(t, err, bad) && bad != "" {
			assert.NotContains(t, err.Error(), bad, "a password is not repeated")
		}
	}
	for _, good := range []string{demo.Password, "tin kettle on a slow train", "Grünkohl-und-Drahtseil", "xk7wq-pm2vd-ha9tb"} {
		assert.NoError(t, api.CheckPassword(good, own...), good)
	}
}
