package install

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Each kind has members, all of them members of what is kept, of the same type; a record that is
// given others, or lacks what it needs, is refused by the name of the member.
func TestEveryKindHasAName(t *testing.T) {
	for _, k := range Kinds {
		assert.NotEmpty(t, KindNames[k], k)
	}
	assert.Len(t, KindNames, len(Kinds))
}

func TestARecordHasTheMembersOfItsKind(t *testing.T) {
	kept := map[string]reflect.Type{}
	for i := range reflect.TypeFor[Record]().NumField() {
		f := reflect.TypeFor[Record]().Field(i)
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		kept[name] = f.Type
	}
	for _, kind := range Kinds {
		has, needed := Members(kind)
		if kind == Variation || kind == Offer || kind == QuoteAnswer {
			assert.Nil(t, has, "it is made by its points, or on the sheet of the quote")
			continue
		}
		require.NotEmpty(t, has, kind)
		for i, name := range has {
			assert.Equal(t, kept[name], members[kind].Field(i).Type, "%s.%s", kind, name)
			assert.NotContains(t, []string{"id", "by", "personId", "at", "role", "receivedAt", "device"}, name, "what nobody says of themselves")
		}
		given := map[string]string{}
		for _, name := range needed {
			given[name] = `"x"`
		}
		require.NoError(t, MembersOf(kind, given), kind)
		given["cellar"] = `"deep"`
		err := MembersOf(kind, given)
		var wrong Errors
		require.ErrorAs(t, err, &wrong, kind)
		assert.Equal(t, FieldError{Field: string(kind) + ".cellar", Value: `"deep"`,
			Accept: "nothing: a record of this kind has " + strings.Join(has, ", ")}, wrong[0])
		if len(needed) > 0 {
			require.ErrorAs(t, MembersOf(kind, nil), &wrong)
			assert.Equal(t, string(kind)+"."+needed[0], wrong[0].Field)
		}
	}
	assert.False(t, slices.Contains(Kinds, "soup"))
	assert.Error(t, MembersOf("soup", nil))
}
