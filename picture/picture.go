// Package picture takes in photographs: it accepts JPEG and PNG up to a size
// and writes them anew as JPEG, so that nothing but the picture is kept. Place,
// camera and time that a file carries are lost on purpose; which way up it was
// held is applied before.
package picture

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"fmt"
	"image"
	"image/jpeg"
	_ "image/png" // decoded beside JPEG
	"io"
)

// What is accepted.
const (
	MaxBytes = 4 << 20
	MaxSide  = 4096 // pixels
	// MaxPixels is what a phone takes (4032 × 3024) and a little more: a small file may unfold to eight bytes for each.
	MaxPixels = 13_000_000
	quality   = 82
)

// Error says what is wrong with a picture and what is accepted.
type Error struct{ Why string }

func (e *Error) Error() string { return e.Why }

// Picture is a cleaned photograph.
type Picture struct {
	JPEG          []byte
	Hash          string // SHA-256 of JPEG, hexadecimal
	Width, Height int
}

// Cleaned reads a picture that [Clean] wrote before, as it is: its hash tells it. The error of another is an [*Error].
func Cleaned(raw []byte, hash string) (Picture, error) {
	sum := sha256.Sum256(raw)
	if hex.EncodeToString(sum[:]) != hash {
		return Picture{}, &Error{"The picture is not the one of that name: it was changed or cut short."}
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || format != "jpeg" || len(raw) > MaxBytes || config.Width > MaxSide || config.Height > MaxSide {
		return Picture{}, &Error{"This is no picture that is accepted: give a JPEG."}
	}
	return Picture{JPEG: raw, Hash: hash, Width: config.Width, Height: config.Height}, nil
}

// decoders bounds how many pictures are unfolded in memory at once.
var decoders = make(chan struct{}, 2)

// Clean reads a JPEG or PNG and writes it anew without anything but its pixels. It waits for its turn, two at a time,
// unless ctx is over first. The error of a picture is an [*Error].
func Clean(ctx context.Context, r io.Reader) (Picture, error) {
	raw, err := io.ReadAll(io.LimitReader(r, MaxBytes+1))
	if err != nil {
		return Picture{}, err
	}
	if len(raw) > MaxBytes {
		return Picture{}, &Error{fmt.Sprintf("The picture is larger than %d MB; shrink it first.", MaxBytes>>20)}
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil {
		return Picture{}, &Error{"This is no picture that is accepted: give a JPEG or PNG."}
	}
	if config.Width > MaxSide || config.Height > MaxSide || config.Width < 16 || config.Height < 16 {
		return Picture{}, &Error{fmt.Sprintf("A picture of %d × %d pixels is not accepted; give one of 16 to %d on each side.",
			config.Width, config.Height, MaxSide)}
	}
	if config.Width*config.Height > MaxPixels {
		return Picture{}, &Error{fmt.Sprintf("A picture of %d × %d pixels is not accepted; give one of at most %d million.",
			config.Width, config.Height, MaxPixels/1_000_000)}
	}
	select {
	case decoders <- struct{}{}:
		defer func() { <-decoders }()
	case <-ctx.Done():
		return Picture{}, ctx.Err()
	}
	img, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return Picture{}, &Error{"The picture cannot be read whole: it is damaged or cut off. Send it again."}
	}
	if format == "jpeg" {
		img = upright(img, orientation(raw))
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality}); err != nil {
		return Picture{}, err
	}
	sum := sha256.Sum256(out.Bytes())
	b := img.Bounds()
	return Picture{out.Bytes(), hex.EncodeToString(sum[:]), b.Dx(), b.Dy()}, nil
}

// orientation reads the EXIF orientation of a JPEG, 1 to 8; 1 when it has none
// or one that is not understood (Exif 2.3, tag 0x0112).
func orientation(raw []byte) int {
	for at := 2; at+4 <= len(raw) && raw[at] == 0xFF; {
		size := int(binary.BigEndian.Uint16(raw[at+2:]))
		end := at + 2 + size
		if size < 2 || end > len(raw) || raw[at+1] == 0xDA {
			return 1
		}
		if body := raw[at+4 : end]; raw[at+1] == 0xE1 && len(body) > 14 && string(body[:6]) == "Exif\x00\x00" {
			return tiffOrientation(body[6:])
		}
		at = end
	}
	return 1
}

func tiffOrientation(t []byte) int {
	var order binary.ByteOrder = binary.LittleEndian
	if string(t[:2]) == "MM" {
		order = binary.BigEndian
	}
	at := int(order.Uint32(t[4:]))
	if at < 8 || at+2 > len(t) {
		return 1
	}
	n := int(order.Uint16(t[at:]))
	for i := range n {
		e := at + 2 + 12*i
		if e+12 > len(t) {
			return 1
		}
		if order.Uint16(t[e:]) == 0x0112 {
			if v := int(order.Uint16(t[e+8:])); v >= 1 && v <= 8 {
				return v
			}
		}
	}
	return 1
}

// upright turns and mirrors an image as its orientation says.
func upright(img image.Image, o int) image.Image {
	if o == 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	size := image.Rect(0, 0, w, h)
	if o >= 5 {
		size = image.Rect(0, 0, h, w)
	}
	out := image.NewRGBA(size)
	for y := range size.Dy() {
		for x := range size.Dx() {
			sx, sy := x, y
			switch o {
			case 2:
				sx = w - 1 - x
			case 3:
				sx, sy = w-1-x, h-1-y
			case 4:
				sy = h - 1 - y
			case 5:
				sx, sy = y, x
			case 6:
				sx, sy = y, h-1-x
			case 7:
				sx, sy = w-1-y, h-1-x
			case 8:
				sx, sy = w-1-y, x
			}
			out.Set(x, y, img.At(b.Min.X+sx, b.Min.Y+sy))
		}
	}
	return out
}
