package merchant

import (
	"bytes"
	_ "embed"
	"encoding/csv"
	"fmt"
	"strconv"
	"strings"
)

//go:embed data/goods.csv
var goodsFile []byte

// good is what the merchant sells under a product or everything under it.
type good struct {
	price float64 // of one unit
	unit  string
	// stock is how much is there; all that anybody wants where it is less than nothing. More comes after lead days.
	stock float64
	lead  int
	// piece is the longest that it cuts, 0 for any: what is ordered longer comes in several.
	piece   float64
	gone    bool
	instead []string
}

// goods are what it sells, by product.
var goods = func() map[string]good {
	rows, err := csv.NewReader(bytes.NewReader(goodsFile)).ReadAll()
	if err != nil {
		panic(err)
	}
	out := map[string]good{}
	for _, r := range rows[1:] {
		number := func(cell string, otherwise float64) float64 {
			if cell == "" {
				return otherwise
			}
			v, err := strconv.ParseFloat(cell, 64)
			if err != nil {
				panic(fmt.Sprintf("goods.csv, %s: %v", r[0], err))
			}
			return v
		}
		g := good{price: number(r[1], 0), unit: r[2], stock: number(r[3], -1), lead: int(number(r[4], 0)), piece: number(r[5], 0), gone: r[6] == "yes"}
		g.instead = strings.FieldsFunc(r[7], func(c rune) bool { return c == '|' })
		out[r[0]] = g
	}
	return out
}()

// goodOf is what it sells of a product: of itself, or of what it is one of.
func goodOf(product string) (g good, key string, ok bool) {
	for key = product; ; {
		if g, ok = goods[key]; ok {
			return g, key, true
		}
		cut := strings.LastIndexByte(key, ':')
		if cut < 0 {
			return good{}, "", false
		}
		key = key[:cut]
	}
}

// metresIn is how long a unit of length is, 0 for a unit of something else.
func metresIn(unit string) float64 {
	switch unit {
	case "m":
		return 1
	case "ft":
		return 0.3048
	}
	return 0
}

// in is how many of the goods' own units one of an order's is.
func (g *good) in(unit string) float64 {
	if to, from := metresIn(g.unit), metresIn(unit); to > 0 && from > 0 {
		return from / to
	}
	return 1
}
