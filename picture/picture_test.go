package picture

import (
	"bytes"
	"encoding/binary"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// corner is a picture 40 wide and 20 high whose upper left is red.
func corner() image.Image {
	img := image.NewRGBA(image.Rect(0, 0, 40, 20))
	for y := range 20 {
		for x := range 40 {
			c := color.RGBA{255, 255, 255, 255}
			if x < 12 && y < 8 {
				c = color.RGBA{220, 0, 0, 255}
			}
			img.Set(x, y, c)
		}
	}
	return img
}

// withExif puts an EXIF block with an orientation and a place into a JPEG.
func withExif(t *testing.T, orientation uint16) []byte {
	var plain bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, corner(), nil))
	tiff := []byte("II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\x01\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00SECRET-PLACE")
	binary.LittleEndian.PutUint16(tiff[18:], orientation)
	body := append([]byte("Exif\x00\x00"), tiff...)
	head := []byte{0xFF, 0xD8, 0xFF, 0xE1, 0, 0}
	binary.BigEndian.PutUint16(head[4:], uint16(len(body)+2))
	return append(append(head, body...), plain.Bytes()[2:]...)
}

func TestCleanKeepsOnlyThePicture(t *testing.T) {
	raw := withExif(t, 1)
	require.Contains(t, string(raw), "SECRET-PLACE")
	p, err := Clean(t.Context(), bytes.NewReader(raw))
	require.NoError(t, err)
	assert.NotContains(t, string(p.JPEG), "SECRET-PLACE")
	assert.NotContains(t, string(p.JPEG), "Exif")
	assert.Len(t, p.Hash, 64)
}

// Each orientation puts the red corner where a viewer would have shown it.
func TestCleanHoldsThePictureUpright(t *testing.T) {
	for o, want := range map[uint16][4]int{ // width, height, and where the red corner goes
		1: {40, 20, 3, 3}, 2: {40, 20, 36, 3}, 3: {40, 20, 36, 16}, 4: {40, 20, 3, 16},
		5: {20, 40, 3, 3}, 6: {20, 40, 16, 3}, 7: {20, 40, 16, 36}, 8: {20, 40, 3, 36},
	} {
		p, err := Clean(t.Context(), bytes.NewReader(withExif(t, o)))
		require.NoError(t, err)
		assert.Equal(t, [2]int{want[0], want[1]}, [2]int{p.Width, p.Height}, "orientation %d", o)
		img, err := jpeg.Decode(bytes.NewReader(p.JPEG))
		require.NoError(t, err)
		r, g, _, _ := img.At(want[2], want[3]).RGBA()
		assert.True(t, r>>8 > 180 && g>>8 < 90, "orientation %d: no red at %d, %d", o, want[2], want[3])
	}
}

func TestCleanRefuses(t *testing.T) {
	var small, ok bytes.Buffer
	require.NoError(t, png.Encode(&small, image.NewRGBA(image.Rect(0, 0, 4, 4))))
	require.NoError(t, png.Encode(&ok, corner()))
	_, err := Clean(t.Context(), bytes.NewReader(ok.Bytes()))
	require.NoError(t, err, "PNG is accepted")
	for name, raw := range map[string][]byte{"text": []byte("<svg onload=alert(1)>"), "tiny": small.Bytes(),
		"cut": ok.Bytes()[:60], "huge": make([]byte, MaxBytes+1), "gif": []byte("GIF89a\x10\x00\x10\x00")} {
		_, err := Clean(t.Context(), bytes.NewReader(raw))
		var why *Error
		assert.ErrorAs(t, err, &why, name)
	}
}

func FuzzClean(f *testing.F) {
	var plain bytes.Buffer
	if err := jpeg.Encode(&plain, corner(), nil); err != nil {
		f.Fatal(err)
	}
	f.Add(plain.Bytes())
	f.Add([]byte{0xFF, 0xD8, 0xFF, 0xE1, 0, 20, 'E', 'x', 'i', 'f', 0, 0, 'M', 'M', 0, 42, 0, 0, 0, 200})
	f.Fuzz(func(t *testing.T, raw []byte) {
		orientation(raw)
		_, _ = Clean(t.Context(), bytes.NewReader(raw))
	})
}
