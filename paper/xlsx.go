package paper

import (
	"bytes"
	"fmt"
	"io"

	"github.com/xuri/excelize/v2"

	"arvelt/core/goods"
)

// WriteXLSX writes rows as a workbook of one sheet, its first row fixed and bold. Texts are cells of text: what begins as a formula is none.
func WriteXLSX(w io.Writer, name string, rows [][]any) error {
	f := excelize.NewFile()
	defer func() { _ = f.Close() }() // in memory: nothing is lost
	if len(name) > 31 {
		name = name[:31]
	}
	if err := f.SetSheetName(f.GetSheetName(0), name); err != nil {
		return fmt.Errorf("workbook %s: %w", name, err)
	}
	out, err := f.NewStreamWriter(name)
	if err != nil {
		return fmt.Errorf("workbook %s: %w", name, err)
	}
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return fmt.Errorf("workbook %s: %w", name, err)
	}
	if err := out.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return fmt.Errorf("workbook %s: %w", name, err)
	}
	for i, row := range rows {
		cells := make([]any, len(row))
		for c, v := range row {
			if p, ok := v.(*float64); ok {
				v = nil
				if p != nil {
					v = *p
				}
			}
			if i == 0 {
				v = excelize.Cell{StyleID: bold, Value: v}
			}
			cells[c] = v
		}
		if err := out.SetRow(fmt.Sprintf("A%d", i+1), cells); err != nil {
			return fmt.Errorf("workbook %s, row %d: %w", name, i+1, err)
		}
	}
	if err := out.Flush(); err != nil {
		return fmt.Errorf("workbook %s: %w", name, err)
	}
	return f.Write(w)
}

// mostUnpacked is how large a workbook may be when it is unpacked: a small file may hold a great deal of nothing.
const mostUnpacked = 32 << 20

// ReadTable reads the first sheet of a workbook, or a table of text. The error is [goods.Errors].
func ReadTable(raw []byte) (*goods.Table, error) {
	if !bytes.HasPrefix(raw, []byte("PK")) {
		return goods.Read(goods.Text(raw))
	}
	f, err := excelize.OpenReader(bytes.NewReader(raw), excelize.Options{UnzipSizeLimit: mostUnpacked, UnzipXMLSizeLimit: mostUnpacked})
	if err != nil {
		return nil, goods.Errors{{Column: "file", Value: err.Error(), Accept: "a workbook as XLSX, or a table of text"}}
	}
	defer func() { _ = f.Close() }()
	rows, err := f.GetRows(f.GetSheetName(0), excelize.Options{RawCellValue: true})
	if err != nil {
		return nil, goods.Errors{{Column: "file", Value: err.Error(), Accept: "a first sheet that can be read"}}
	}
	return goods.Rows(rows)
}
